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
  weights: Float64Array[],
  nFields: number,
): Float64Array {
  const walk = new Walk(nodes, fieldOfColumn, values, given, weights, nFields)
  for (const row of rows) walk.along(row)
  return walk.contributions.map((sum) => sum / rows.length)
}

/** Weights of leaves by s and t: s! t! / (s + t + 1)! for so many other inputs decided for the case, and for the row. */
export function leafWeights({ nodes }: TreeSum, nFields: number): Float64Array[] {
  // A path decides no more inputs than it has nodes.
  const most = Math.min(nFields, depthOf(nodes))
  const weights = [Float64Array.from({ length: most + 1 }, (_, t) => 1 / (t + 1))]
  for (let s = 1; s <= most; s++) weights.push(weights[s - 1].map((weight, t) => (weight * s) / (s + t + 1)))
  return weights
}

/** The most nodes that a path has above its leaf. Children stand behind their parent. */
function depthOf({ feature, left }: Nodes): number {
  const depth = new Int32Array(feature.length)
  let most = 0
  for (let node = 0; node < feature.length; node++) {
    most = Math.max(most, depth[node])
    if (feature[node] >= 0) depth[left[node]] = depth[left[node] + 1] = depth[node] + 1
  }
  return most
}

class Walk {
  readonly contributions: Float64Array
  readonly #decided: Uint8Array
  #row: Float64Array = new Float64Array(0)
  /** What the subtree walked last adds for inputs decided for the case, and takes off for those decided for the row. */
  #adds = 0
  #takes = 0

  constructor(
    private readonly nodes: Nodes,
    private readonly fieldOfColumn: Int32Array,
    private readonly values: Float64Array,
    private readonly given: Float64Array,
    private readonly weights: Float64Array[],
    nFields: number,
  ) {
    this.contributions = new Float64Array(nFields)
    this.#decided = new Uint8Array(nFields)
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
    this.#adds = nCase > 0 ? value * this.weights[nCase - 1][nRow] : 0
    this.#takes = nRow > 0 ? value * this.weights[nCase][nRow - 1] : 0
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
