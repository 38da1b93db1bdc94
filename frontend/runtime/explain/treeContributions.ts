/**
 * Exact contributions of sums of trees: interventional Shapley values of inputs, all columns made of one moving together.
 *
 * A tree is walked once for the case and each sample row. Where both go the same way there is one way on; where they
 * part, whether the input is the case's or the row's decides, here and further down. What a leaf then adds to an
 * input's contribution has a closed form in how many inputs were decided either way (Lundberg et al., "From local
 * explanations to global understanding with explainable AI for trees", Nature Machine Intelligence 2, 2020).
 */
import { goesLeft, type Nodes, type TreeSum } from './treeSum'

const UNDECIDED = 0
const OF_CASE = 1
const OF_ROW = 2

/** Contributions of each input to what the leaves add, averaged over sample rows; all as the trees are given them. */
export function treeContributions(
  { nodes, fieldOfColumn }: TreeSum,
  values: Float64Array,
  given: Float64Array,
  rows: readonly Float64Array[],
  nFields: number,
): Float64Array {
  const walk = new Walk(nodes, fieldOfColumn, values, given, nFields)
  for (const row of rows) walk.along(row)
  return walk.contributions.map((sum) => sum / rows.length)
}

/** Weights of leaves by s and t: s! t! / (s + t + 1)! for so many other inputs decided for the case, and for the row. */
export function leafWeights(nFields: number): Float64Array[] {
  const factorials = new Float64Array(nFields + 2).fill(1)
  for (let n = 1; n < factorials.length; n++) factorials[n] = factorials[n - 1] * n
  return Array.from({ length: nFields + 1 }, (_, s) =>
    Float64Array.from({ length: nFields + 1 - s }, (__, t) => (s + t + 1 < factorials.length ? (factorials[s] * factorials[t]) / factorials[s + t + 1] : 0)),
  )
}

class Walk {
  readonly contributions: Float64Array
  readonly #decided: Uint8Array
  readonly #weights: Float64Array[]
  #row: Float64Array = new Float64Array(0)
  /** What the subtree walked last adds for inputs decided for the case, and takes off for those decided for the row. */
  #adds = 0
  #takes = 0

  constructor(
    private readonly nodes: Nodes,
    private readonly fieldOfColumn: Int32Array,
    private readonly values: Float64Array,
    private readonly given: Float64Array,
    nFields: number,
  ) {
    this.contributions = new Float64Array(nFields)
    this.#decided = new Uint8Array(nFields)
    this.#weights = leafWeights(nFields)
  }

  along(row: Float64Array): void {
    this.#row = row
    for (const root of this.nodes.roots) this.#down(root, 0, 0)
  }

  #down(from: number, nCase: number, nRow: number): void {
    const { feature, left } = this.nodes
    let node = from
    while (feature[node] >= 0) {
      const field = this.fieldOfColumn[feature[node]]
      const decided = field < 0 ? OF_CASE : this.#decided[field]
      const byCase = this.#next(node, this.given)
      const byRow = this.#next(node, this.#row)
      if (decided === UNDECIDED && byCase !== byRow) {
        this.#part(field, byCase, byRow, nCase, nRow)
        return
      }
      node = decided === OF_ROW ? byRow : byCase
    }
    const value = this.values[left[node]]
    this.#adds = nCase > 0 ? value * this.#weights[nCase - 1][nRow] : 0
    this.#takes = nRow > 0 ? value * this.#weights[nCase][nRow - 1] : 0
  }

  #part(field: number, byCase: number, byRow: number, nCase: number, nRow: number): void {
    this.#decided[field] = OF_CASE
    this.#down(byCase, nCase + 1, nRow)
    const [adds, takes] = [this.#adds, this.#takes]
    this.#decided[field] = OF_ROW
    this.#down(byRow, nCase, nRow + 1)
    this.#decided[field] = UNDECIDED
    this.contributions[field] += adds - this.#takes
    this.#adds += adds
    this.#takes += takes
  }

  #next(node: number, columns: Float64Array): number {
    const { left } = this.nodes
    return goesLeft(node, columns, this.nodes) ? left[node] : left[node] + 1
  }
}
