/**
 * What the reference sample looks like from each leaf, worked out once: then one pass over a case's nodes gives its exact
 * contributions.
 *
 * A leaf is reached by exactly those mixtures of the case and a sample row that have from the case every input whose
 * conditions on the leaf's path the row misses, and from the row every input whose conditions the case misses. So of a row
 * only that set of inputs matters, a bit an input: a *pattern*, with how many rows have it.
 */
import { goesLeft, type Nodes, type TreeSum } from './treeSum'

/** A bit an input, in one word whose sign is left alone. */
export const MOST_FIELDS = 30
/** Of leaves times rows; beyond it trees are walked. */
const MOST_NUMBERS = 2e7

export interface Patterns {
  nRows: number
  /** Leaf after leaf: where its node is, and where its patterns begin; one more than there are leaves. */
  leaves: Int32Array
  starts: Int32Array
  missed: Int32Array
  counts: Int32Array
  /** How many inputs each pattern has. */
  sizes: Uint8Array
  /** Leaf after leaf the inputs that all rows miss: a case that misses one of them too never meets the leaf. */
  missedByAll: Int32Array
}

/** The patterns of rows as the trees are given them; null where inputs or leaves are too many. */
export function findPatterns({ nodes, fieldOfColumn }: TreeSum, rows: readonly Float64Array[], nFields: number): Patterns | null {
  const leaves = Int32Array.from(Array.from(nodes.feature.keys()).filter((node) => nodes.feature[node] < 0))
  if (nFields > MOST_FIELDS || leaves.length * rows.length > MOST_NUMBERS) return null
  const found = grouped(rows.map((row) => missedOnTheWay(nodes, fieldOfColumn, row)), leaves)
  const sizes = new Uint8Array(found.missed.length)
  for (let at = 0; at < sizes.length; at++) sizes[at] = bitsOf(found.missed[at])
  return { nRows: rows.length, leaves, ...found, sizes }
}

/** Of what rows miss at each node, equal ones together, leaf by leaf. Of few different ones, looking through them is quicker than sorting. */
function grouped(byRow: readonly Int32Array[], leaves: Int32Array): Pick<Patterns, 'starts' | 'missed' | 'counts' | 'missedByAll'> {
  const starts = new Int32Array(leaves.length + 1)
  const missed = new Int32Array(leaves.length * byRow.length)
  const counts = new Int32Array(missed.length)
  const missedByAll = new Int32Array(leaves.length)
  let end = 0
  for (let leaf = 0; leaf < leaves.length; leaf++) {
    const [start, node] = [end, leaves[leaf]]
    let all = -1
    for (let row = 0; row < byRow.length; row++) {
      const pattern = byRow[row][node]
      let at = start
      while (at < end && missed[at] !== pattern) at += 1
      if (at === end) {
        missed[end] = pattern
        all &= pattern
        end += 1
      }
      counts[at] += 1
    }
    missedByAll[leaf] = all
    starts[leaf + 1] = end
  }
  return { starts, missed: missed.slice(0, end), counts: counts.slice(0, end), missedByAll }
}

/** For each node the inputs whose conditions on the way there a row misses. Children stand behind their parent. */
function missedOnTheWay(nodes: Nodes, fieldOfColumn: Int32Array, row: Float64Array): Int32Array {
  const { feature, left } = nodes
  const missed = new Int32Array(feature.length)
  for (let node = 0; node < feature.length; node++) {
    if (feature[node] < 0) continue
    const field = fieldOfColumn[feature[node]]
    const without = missed[node] | (field < 0 ? 0 : 1 << field)
    const isLeft = goesLeft(node, row, nodes)
    missed[left[node]] = isLeft ? missed[node] : without
    missed[left[node] + 1] = isLeft ? without : missed[node]
  }
  return missed
}

/** Contributions of each of `nFields` inputs to what leaves add, for a row as the trees are given it. */
export function contributionsByPatterns({ nodes, fieldOfColumn }: TreeSum, values: Float64Array, given: Float64Array, patterns: Patterns, weights: Float64Array[], nFields: number): Float64Array {
  const { leaves, starts, missed, counts, sizes, missedByAll, nRows } = patterns
  const ofCase = missedOnTheWay(nodes, fieldOfColumn, given)
  const sums = new Float64Array(nFields)
  for (let leaf = 0; leaf < leaves.length; leaf++) {
    const value = values[nodes.left[leaves[leaf]]]
    const own = ofCase[leaves[leaf]]
    if (value === 0 || (own & missedByAll[leaf]) !== 0) continue
    const nRow = bitsOf(own)
    const end = starts[leaf + 1]
    let takes = 0
    for (let at = starts[leaf]; at < end; at++) {
      const pattern = missed[at]
      // Neither has what the leaf wants of an input.
      if ((pattern & own) !== 0) continue
      const nCase = sizes[at]
      if (nRow > 0) takes += counts[at] * weights[nCase][nRow - 1]
      if (nCase > 0) addTo(sums, pattern, value * counts[at] * weights[nCase - 1][nRow])
    }
    if (takes !== 0) addTo(sums, own, -value * takes)
  }
  return sums.map((sum) => sum / nRows)
}

function addTo(sums: Float64Array, fields: number, amount: number): void {
  for (let left = fields; left !== 0; left &= left - 1) sums[31 - Math.clz32(left & -left)] += amount
}

function bitsOf(fields: number): number {
  let n = 0
  for (let left = fields; left !== 0; left &= left - 1) n += 1
  return n
}
