/** Trees: single, averaged, added up. */
import { emptyBlock, float64s, rowOf, type Arrays, type Block, type Settings } from '../blocks'
import { need } from '../errors'
import { arrayOf, numberIn, type Operations } from './registry'

const TREE_ARRAYS: Record<string, string> = { roots: 'int32', feature: 'int32', threshold: 'float64', left: 'int32', missing_left: 'uint8' }
/** Only where trees split by sets of categories: all four or none. */
const SET_ARRAYS: Record<string, string> = { set_of_node: 'int32', set_starts: 'int32', goes_left_sets: 'uint8', strangers_left: 'uint8' }

interface Nodes {
  roots: Int32Array
  feature: Int32Array
  threshold: Float64Array
  left: Int32Array
  missingLeft: Uint8Array
  sets: Sets | null
}

interface Sets {
  ofNode: Int32Array
  starts: Int32Array
  goesLeft: Uint8Array
  strangersLeft: Uint8Array
}

function nodesOf(arrays: Arrays): Nodes {
  const sets = 'set_of_node' in arrays && {
    ofNode: arrays.set_of_node.data as Int32Array,
    starts: arrays.set_starts.data as Int32Array,
    goesLeft: arrays.goes_left_sets.data as Uint8Array,
    strangersLeft: arrays.strangers_left.data as Uint8Array,
  }
  return {
    roots: arrays.roots.data as Int32Array,
    feature: arrays.feature.data as Int32Array,
    threshold: arrays.threshold.data as Float64Array,
    left: arrays.left.data as Int32Array,
    missingLeft: arrays.missing_left.data as Uint8Array,
    sets: sets || null,
  }
}

/**
 * The row of leaf values that a row of numbers comes to down one tree.
 * A node's children stand side by side behind it: each turn goes forward, so it ends.
 */
function leafOf(row: Float64Array, root: number, nodes: Nodes): number {
  const { feature, threshold, left, missingLeft, sets } = nodes
  let node = root
  while (feature[node] >= 0) {
    const value = row[feature[node]]
    let goesLeft
    if (Number.isNaN(value)) goesLeft = missingLeft[node] > 0
    else if (sets !== null && sets.ofNode[node] >= 0) goesLeft = isInSet(value, sets.ofNode[node], sets)
    else goesLeft = value <= threshold[node]
    node = left[node] + (goesLeft ? 0 : 1)
  }
  return left[node]
}

function isInSet(value: number, set: number, { starts, goesLeft, strangersLeft }: Sets): boolean {
  const size = starts[set + 1] - starts[set]
  if (value < 0 || value >= size) return strangersLeft[set] > 0
  return goesLeft[starts[set] + Math.trunc(value)] > 0
}

/** The mean of the trees' leaf values: summed tree after tree, then divided. */
function forest([block]: Block[], arrays: Arrays): Block {
  const nodes = nodesOf(arrays)
  const values = float64s(arrays.values)
  const width = arrays.values.shape[1]
  const out = emptyBlock(block.rows, width)
  for (let row = 0; row < block.rows; row++) {
    const own = rowOf(block, row)
    const sum = rowOf(out, row)
    for (const root of nodes.roots) {
      const first = leafOf(own, root, nodes) * width
      for (let at = 0; at < width; at++) sum[at] += values[first + at]
    }
    for (let at = 0; at < width; at++) sum[at] /= nodes.roots.length
  }
  return out
}

/** Where it starts, plus each tree's leaf value at the learning rate, tree after tree. */
function boosted([block]: Block[], arrays: Arrays, settings: Settings): Block {
  const nodes = nodesOf(arrays)
  const values = float64s(arrays.values)
  const start = float64s(arrays.start)
  const output = arrays.tree_output.data as Int32Array
  const rate = numberIn(settings, 'rate')
  const rounded = settings.is_single === true ? Math.fround : (value: number) => value
  const out = emptyBlock(block.rows, start.length)
  for (let row = 0; row < block.rows; row++) {
    const own = rowOf(block, row)
    const sum = rowOf(out, row)
    sum.set(start)
    for (const [tree, root] of nodes.roots.entries()) {
      const to = output[tree]
      sum[to] = rounded(sum[to] + rate * values[leafOf(own, root, nodes)])
    }
  }
  return out
}

function checkTrees(width: number, arrays: Arrays, nLeaves: number): void {
  checkKinds(arrays, TREE_ARRAYS)
  const { roots, feature, left, threshold, missingLeft } = nodesOf(arrays)
  const n = feature.length
  need(n > 0 && threshold.length === n && left.length === n && missingLeft.length === n, 'the nodes’ arrays differ in length')
  need(
    roots.every((root) => root >= 0 && root < n),
    'a tree starts outside the nodes',
  )
  for (let node = 0; node < n; node++) {
    need(feature[node] < width, 'a node asks for a feature that is not there')
    // Children stand behind their parent: a walk goes forward only, and so ends.
    if (feature[node] >= 0) need(left[node] > node && left[node] < n - 1, 'a node leads backwards or out of the nodes')
    else need(left[node] >= 0 && left[node] < nLeaves, 'a leaf has no value')
  }
  if (Object.keys(SET_ARRAYS).some((part) => part in arrays)) checkSets(arrays, n)
}

function checkSets(arrays: Arrays, nNodes: number): void {
  checkKinds(arrays, SET_ARRAYS)
  const starts = arrays.set_starts.data as Int32Array
  const ofNode = arrays.set_of_node.data as Int32Array
  need(ofNode.length === nNodes, 'each node wants its set, or −1')
  need(starts.length >= 1 && starts[0] === 0 && starts.every((start, at) => at === 0 || start >= starts[at - 1]), 'sets must ascend')
  need(starts[starts.length - 1] === arrays.goes_left_sets.data.length, 'the sets do not fill their list')
  need(arrays.strangers_left.data.length === starts.length - 1, 'each set says where strangers go')
  need(
    ofNode.every((set) => set < starts.length - 1),
    'a node asks for a set that is not there',
  )
}

function checkKinds(arrays: Arrays, kinds: Record<string, string>): void {
  for (const [part, type] of Object.entries(kinds)) {
    const array = arrayOf(arrays, part)
    need(array.shape.length === 1 && array.type === type, `\`${part}\` must be a list of ${type}`)
  }
}

export const TREES: Operations = {
  forest: {
    width: (widths, arrays) => {
      const { shape, type } = arrayOf(arrays, 'values')
      need(shape.length === 2 && type === 'float64', 'leaf values must be a table of float64')
      checkTrees(widths[0], arrays, shape[0])
      return shape[1]
    },
    run: forest,
  },
  boosted: {
    width: (widths, arrays, settings) => {
      const [values, output, start] = [arrayOf(arrays, 'values'), arrayOf(arrays, 'tree_output'), arrayOf(arrays, 'start')]
      need(values.shape.length === 1 && values.type === 'float64', 'leaf values must be a list of float64')
      need(output.type === 'int32' && output.data.length === arrayOf(arrays, 'roots').data.length, 'each tree wants one output')
      const outputs = output.data as Int32Array
      need(start.shape.length === 1 && outputs.every((to) => to >= 0 && to < start.shape[0]), 'a tree has no output')
      checkTrees(widths[0], arrays, values.shape[0])
      numberIn(settings, 'rate')
      return start.shape[0]
    },
    run: boosted,
  },
}
