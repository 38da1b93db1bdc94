/**
 * Response curves: an output as one input moves and the rest stay.
 *
 * For sums of trees the curve of a number is exact: it is level between places that are worked out once for the model, and
 * walking each tree with that input left free finds the jumps at them.
 */
import type { Plan } from '../plan'
import { chainOfColumn, type Column } from './structure'
import { goesLeft, type TreeSum } from './treeSum'

const BISECTIONS = 70

export interface Curve {
  /** `steps`: y[i] holds from x[i] up to x[i + 1]; `options`: y[i] is the output at x[i]. */
  shape: 'steps' | 'options'
  x: (number | string | boolean | null)[]
  y: number[]
}

/** Where the curve of one number can jump: the smallest value of each piece, and the last piece that goes left at each node. */
export interface StepPlaces {
  starts: Float64Array
  /** A node each; those that do not ask for this number are never looked at. */
  rank: Int32Array
}

/** The places for one input between two values; null if its columns do not only rise with it. */
export function stepPlaces(trees: TreeSum, columns: Column[], plan: Plan, field: number, low: number, high: number): StepPlaces | null {
  const own = new Set(Array.from(columns.keys()).filter((at) => columns[at].fields.has(field)))
  if ([...own].some((at) => !columns[at].rises)) return null
  const { feature, threshold } = trees.nodes
  const nodes = Array.from(feature.keys()).filter((node) => feature[node] >= 0 && own.has(feature[node]))
  const above = new Float64Array(nodes.length)
  for (const column of own) {
    const here = Array.from(nodes.keys()).filter((at) => feature[nodes[at]] === column)
    // Many nodes ask for the same.
    const thresholds = Float64Array.from(new Set(here.map((at) => threshold[nodes[at]])))
    const found = firstAbove(chainOfColumn(plan, trees.given, column), thresholds, low, high)
    const byThreshold = new Map(Array.from(thresholds, (own, at) => [own, found[at]]))
    for (const at of here) above[at] = byThreshold.get(threshold[nodes[at]]) ?? Infinity
  }
  // What all of the range is above starts no piece in it, nor does what none of it reaches.
  const starts = Float64Array.from(new Set([low, ...above.filter((value) => value > low && value <= high)])).sort()
  const rank = new Int32Array(feature.length)
  for (const [at, node] of nodes.entries()) rank[node] = above[at] <= low ? -1 : lastBelow(starts, above[at])
  return { starts, rank }
}

/**
 * The places for one input whose pieces are known: `starts` has the smallest value of each. Null as for `stepPlaces`.
 */
export function knownPlaces(trees: TreeSum, columns: Column[], plan: Plan, field: number, starts: Float64Array): StepPlaces | null {
  const own = Array.from(columns.keys()).filter((at) => columns[at].fields.has(field))
  if (own.some((at) => !columns[at].rises)) return null
  const { feature, threshold } = trees.nodes
  const said = new Map(own.map((at) => [at, chainOfColumn(plan, trees.given, at)(starts)]))
  const rank = new Int32Array(feature.length)
  for (let node = 0; node < feature.length; node++) {
    const values = feature[node] < 0 ? undefined : said.get(feature[node])
    if (values !== undefined) rank[node] = firstBeyond(values, threshold[node]) - 1
  }
  return { starts, rank }
}

/** Where values that never fall are first above a threshold; how many there are, if none is. */
function firstBeyond(values: Float64Array, threshold: number): number {
  let [from, to] = [0, values.length]
  while (from < to) {
    const middle = (from + to) >> 1
    if (values[middle] > threshold) to = middle
    else from = middle + 1
  }
  return from
}

/** The last piece that begins below a value. */
function lastBelow(starts: Float64Array, value: number): number {
  let [from, to] = [0, starts.length]
  while (from < to) {
    const middle = (from + to) >> 1
    if (starts[middle] < value) from = middle + 1
    else to = middle
  }
  return from - 1
}

/**
 * For each threshold the smallest raw value from which the column is above it: by bisection down to neighbouring numbers,
 * since rounding on the way to the column is part of the model. Infinity where there is none up to `high`.
 */
function firstAbove(column: (values: Float64Array) => Float64Array, thresholds: Float64Array, low: number, high: number): Float64Array {
  const below = new Float64Array(thresholds.length).fill(low)
  const above = new Float64Array(thresholds.length).fill(high)
  const isAbove = (values: Float64Array) => column(values).map((value, at) => Number(value > thresholds[at]))
  const [all, some] = [isAbove(below), isAbove(above)]
  for (let turn = 0; turn < BISECTIONS; turn++) {
    const middle = below.map((value, at) => value + (above[at] - value) / 2)
    if (middle.every((value, at) => value === below[at] || value === above[at])) break
    const up = isAbove(middle)
    for (const [at, value] of middle.entries()) {
      if (up[at]) above[at] = value
      else below[at] = value
    }
  }
  return above.map((value, at) => (all[at] ? low : some[at] ? value : Infinity))
}

/** What the trees add in each piece of one input, the rest as in the case; `given` is the case as the trees are given it. */
export function stepValues(trees: TreeSum, values: Float64Array, given: Float64Array, field: number, { starts, rank }: StepPlaces): Float64Array {
  const { roots, feature, left } = trees.nodes
  const jumps = new Float64Array(starts.length + 1)
  // Pieces from `from` up to `end` come to `node`; both sides of a node lie further on, so it ends.
  const down = (start: number, from: number, end: number) => {
    let node = start
    while (feature[node] >= 0) {
      if (trees.fieldOfColumn[feature[node]] !== field) {
        node = goesLeft(node, given, trees.nodes) ? left[node] : left[node] + 1
        continue
      }
      const middle = Math.min(Math.max(rank[node] + 1, from), end)
      if (middle > from && middle < end) {
        down(left[node], from, middle)
        down(left[node] + 1, middle, end)
        return
      }
      node = middle === end ? left[node] : left[node] + 1
    }
    jumps[from] += values[left[node]]
    jumps[end] -= values[left[node]]
  }
  for (const root of roots) down(root, 0, starts.length)
  let sum = 0
  return jumps.subarray(0, starts.length).map((jump) => (sum += jump))
}
