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
  const byLeaf = new Int32Array(leaves.length * rows.length)
  for (const [at, row] of rows.entries()) {
    const missed = missedOnTheWay(nodes, fieldOfColumn, row)
    for (let leaf = 0; leaf < leaves.length; leaf++) byLeaf[leaf * rows.length + at] = missed[leaves[leaf]]
  }
  const found = grouped(byLeaf, leaves.length, rows.length)
  const missedByAll = Int32Array.from(leaves, (_, leaf) => found.missed.subarray(found.starts[leaf], found.starts[leaf + 1]).reduce((all, own) => all & own, -1))
  return { nRows: rows.length, leaves, ...found, sizes: Uint8Array.from(found.missed, bitsOf), missedByAll }
}

/** Equal neighbours together, leaf by leaf. */
function grouped(byLeaf: Int32Array, nLeaves: number, nRows: number): Pick<Patterns, 'starts' | 'missed' | 'counts'> {
  const starts = new Int32Array(nLeaves + 1)
  const counts = new Int32Array(byLeaf.length)
  let end = 0
  for (let leaf = 0; leaf < nLeaves; leaf++) {
    const own = byLeaf.subarray(leaf * nRows, (leaf + 1) * nRows).sort()
    for (let at = 0; at < nRows; at++) {
      const pattern = own[at]
      // What is written stands before what is still to be read.
      if (end > starts[leaf] && byLeaf[end - 1] === pattern) counts[end - 1] += 1
      else {
        byLeaf[end] = pattern
        counts[end] = 1
        end += 1
      }
    }
    starts[leaf + 1] = end
  }
  return { starts, missed: byLeaf.slice(0, end), counts: counts.slice(0, end) }
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
