/** Plans whose output is an affine function of one sum of trees: their contributions are exact, however many trees. */
import { float64s } from '../blocks'
import type { Plan, Step } from '../plan'
import { columnsOfBlocks, type Column } from './structure'

export interface TreeSum {
  /** The block that the trees are given. */
  given: string
  columns: Column[]
  /** Of each of its columns the one input it is made of, by place; −1 for none. */
  fieldOfColumn: Int32Array
  nodes: Nodes
  /** What each leaf of each tree adds to an output of the model. */
  leavesFor: (of: number) => Float64Array
}

export interface Nodes {
  roots: Int32Array
  feature: Int32Array
  threshold: Float64Array
  left: Int32Array
  missingLeft: Uint8Array
}

/** Which way a row goes at a node. */
export function goesLeft(node: number, row: Float64Array, { feature, threshold, missingLeft }: Nodes): boolean {
  const value = row[feature[node]]
  return value <= threshold[node] || (Number.isNaN(value) && missingLeft[node] > 0)
}

/** What the leaves of all trees add for a row. */
export function sumOfLeaves(nodes: Nodes, values: Float64Array, row: Float64Array): number {
  let sum = 0
  for (const root of nodes.roots) {
    let node = root
    while (nodes.feature[node] >= 0) node = nodes.left[node] + (goesLeft(node, row, nodes) ? 0 : 1)
    sum += values[nodes.left[node]]
  }
  return sum
}

/** The plan's trees; null if it is not of that kind, or its trees ask for columns made of several inputs. */
export function findTreeSum(plan: Plan): TreeSum | null {
  const trees = plan.steps.filter(({ op }) => op === 'forest' || op === 'boosted')
  const [step] = trees
  // Sums that are rounded on their way are no sums of their leaves, and sets of options have walks of their own.
  if (trees.length !== 1 || step.settings.is_single === true || 'set_of_node' in step.arrays) return null
  const weights = weightsAfter(plan, step)
  const columns = columnsOfBlocks(plan).get(step.inputs[0]) ?? []
  if (weights === null || columns.some(({ fields }) => fields.size > 1)) return null
  const part = (name: string) => plan.arrays[step.arrays[name]].data
  return {
    given: step.inputs[0],
    columns,
    fieldOfColumn: Int32Array.from(columns, ({ fields }) => [...fields][0] ?? -1),
    nodes: {
      roots: part('roots') as Int32Array,
      feature: part('feature') as Int32Array,
      threshold: part('threshold') as Float64Array,
      left: part('left') as Int32Array,
      missingLeft: part('missing_left') as Uint8Array,
    },
    leavesFor: (of) => (step.op === 'forest' ? forestLeaves(plan, step, weights, of) : boostedLeaves(plan, step, weights, of)),
  }
}

/**
 * How the output comes from the trees' sum, as weights of shape (outputs of the trees, outputs of the model); null if it
 * is bent on the way. What is added to all rows alike is left out: it is in the baseline.
 */
function weightsAfter(plan: Plan, trees: Step): number[][] | null {
  let weights = Array.from({ length: trees.width }, (_, at) => Array.from({ length: trees.width }, (__, to) => Number(at === to)))
  let here = trees.out
  for (const step of plan.steps.slice(plan.steps.indexOf(trees) + 1)) {
    const next = step.inputs.length === 1 && step.inputs[0] === here ? weighedStep(plan, step, weights) : null
    if (next === null) return null
    weights = next
    here = step.out
  }
  return weights
}

function weighedStep(plan: Plan, step: Step, weights: number[][]): number[][] | null {
  const list = (part: string) => Array.from(float64s(plan.arrays[step.arrays[part]]))
  switch (step.op) {
    case 'take':
      return weights.map((row) => (step.settings.places as number[]).map((at) => row[at]))
    case 'multiply':
      return weights.map((row) => row.map((value, at) => value * list('vector')[at]))
    case 'divide':
      return weights.map((row) => row.map((value, at) => value / list('vector')[at]))
    case 'add':
    case 'subtract':
      return weights
    case 'linear': {
      const matrix = list('weights')
      return weights.map((row) => Array.from({ length: step.width }, (_, to) => row.reduce((sum, value, at) => sum + value * matrix[at * step.width + to], 0)))
    }
    default:
      return null
  }
}

function forestLeaves(plan: Plan, step: Step, weights: number[][], of: number): Float64Array {
  const own = float64s(plan.arrays[step.arrays.values])
  const nTrees = plan.arrays[step.arrays.roots].data.length
  const values = new Float64Array(own.length / step.width)
  for (let leaf = 0; leaf < values.length; leaf++) {
    for (let at = 0; at < step.width; at++) values[leaf] += (own[leaf * step.width + at] * weights[at][of]) / nTrees
  }
  return values
}

function boostedLeaves(plan: Plan, step: Step, weights: number[][], of: number): Float64Array {
  const own = float64s(plan.arrays[step.arrays.values])
  const rate = step.settings.rate as number
  const values = new Float64Array(own.length)
  const output = plan.arrays[step.arrays.tree_output].data as Int32Array
  const roots = plan.arrays[step.arrays.roots].data as Int32Array
  const nodes = { feature: plan.arrays[step.arrays.feature].data as Int32Array, left: plan.arrays[step.arrays.left].data as Int32Array }
  for (const [tree, root] of roots.entries()) {
    for (const leaf of leavesUnder(root, nodes)) values[leaf] = rate * own[leaf] * weights[output[tree]][of]
  }
  return values
}

/** The rows of leaf values under a node. */
function leavesUnder(root: number, { feature, left }: { feature: Int32Array; left: Int32Array }): number[] {
  const found: number[] = []
  const waiting = [root]
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    if (feature[node] < 0) found.push(left[node])
    else waiting.push(left[node], left[node] + 1)
  }
  return found
}
