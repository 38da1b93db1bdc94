/** What depends on what in a plan: which inputs each column of each block is made of, and whether it rises with them. */
import { emptyBlock, float64s, type Arrays, type Settings } from '../blocks'
import { OPERATIONS } from '../operations'
import { arraysOf, type Plan, type Step } from '../plan'

/** Of each number by itself, and never falling. */
const RISING = new Set(
  'arctan at_least at_most box_cox cbrt ceil exp expm1 float32 floor log log10 log1p log2 rint sigmoid signed_square sqrt subtract add tanh un_box_cox un_yeo_johnson yeo_johnson fill'.split(' '),
)
/** Of each number by itself, in any way. */
const ALONE = new Set('above is_missing log_counts power zero_as_missing absolute square sign reciprocal negative sin cos tan normal_share interpolated codes_of_numbers'.split(' '))

/** A column of a block. */
export interface Column {
  /** The inputs that it is made of, by their places. */
  fields: ReadonlySet<number>
  /** Whether it only rises with the one that it is made of. */
  rises: boolean
}

/** For every block its columns. */
export function columnsOfBlocks(plan: Plan): Map<string, Column[]> {
  const places = new Map(plan.inputs.map(({ name }, at) => [name, at]))
  const blocks = new Map<string, Column[]>()
  for (const step of plan.steps) {
    const inputs = step.inputs.map((name) => blocks.get(name) ?? [])
    blocks.set(step.out, columnsOfStep(step, inputs, plan, places))
  }
  return blocks
}

/** Sums and constant weights of columns; nothing else. */
const AFFINE = new Set('multiply divide add subtract take linear join sum'.split(' '))

/** Whether the output is a sum of what each input comes to by itself: wherever inputs meet, they are only added. */
export function isAdditive(plan: Plan): boolean {
  const blocks = columnsOfBlocks(plan)
  return plan.steps.every(({ op, out }) => AFFINE.has(op) || (blocks.get(out) ?? []).every(({ fields }) => fields.size <= 1))
}

function columnsOfStep(step: Step, inputs: Column[][], plan: Plan, places: Map<string, number>): Column[] {
  const each = (column: Column) => Array.from({ length: step.width }, () => column)
  const read = ((step.settings.columns ?? []) as string[]).map((name) => new Set([places.get(name) ?? -1]))
  if (step.op === 'numbers') return read.map((fields) => ({ fields, rises: true }))
  if (step.op === 'codes' || step.op === 'count_terms') return each({ fields: read[0], rises: false })
  if (step.op === 'join') return inputs.flat()
  if (step.op === 'take') return (step.settings.places as number[]).map((at) => inputs[0][at])
  if (step.op === 'multiply' || step.op === 'divide') {
    const vector = float64s(plan.arrays[step.arrays.vector])
    return inputs[0].map(({ fields, rises }, at) => ({ fields, rises: rises && vector[at] > 0 }))
  }
  if (RISING.has(step.op)) return inputs[0]
  if (ALONE.has(step.op)) return inputs[0].map(({ fields }) => ({ fields, rises: false }))
  if ((step.op === 'bins' || step.op === 'quantiles') && step.width === 1) return inputs[0]
  if (step.op === 'sum') return inputs[0].map((_, at) => united(inputs.map((block) => block[at])))
  if (step.op === 'linear') return Array.from({ length: step.width }, (_, to) => weighed(step, plan, inputs[0], to))
  if (step.op === 'forest' || step.op === 'boosted') {
    const asked = new Set(plan.arrays[step.arrays.feature].data as Int32Array)
    return each(united(inputs[0].filter((_, at) => asked.has(at))))
  }
  // Whatever else there is may use all it is given for each of its columns.
  return each(united(inputs.flat()))
}

function weighed(step: Step, plan: Plan, columns: Column[], to: number): Column {
  const weights = float64s(plan.arrays[step.arrays.weights])
  return united(columns.filter((_, at) => weights[at * step.width + to] !== 0))
}

function united(columns: readonly Column[]): Column {
  return { fields: new Set(columns.flatMap(({ fields }) => [...fields])), rises: false }
}

/** How one column of a block is made of the one raw number that it rises with. */
export function chainOfColumn(plan: Plan, block: string, column: number): (values: Float64Array) => Float64Array {
  const steps = new Map(plan.steps.map((step) => [step.out, step]))
  const links: { op: string; arrays: Arrays; settings: Settings }[] = []
  let [step, at] = [steps.get(block) as Step, column]
  while (step.op !== 'numbers') {
    if (step.op === 'join') {
      let next = 0
      for (; at >= (steps.get(step.inputs[next]) as Step).width; next++) at -= (steps.get(step.inputs[next]) as Step).width
      step = steps.get(step.inputs[next]) as Step
      continue
    }
    if (step.op === 'take') at = (step.settings.places as number[])[at]
    else links.unshift({ op: step.op, arrays: ofColumn(arraysOf(step, plan.arrays), at), settings: step.settings })
    step = steps.get(step.inputs[0]) as Step
  }
  return (values) => {
    let made = { ...emptyBlock(values.length, 1), data: values }
    for (const { op, arrays, settings } of links) made = OPERATIONS[op].run([made], arrays, settings, {})
    return made.data
  }
}

/** A step's arrays, with of a number a column that of one column only. */
function ofColumn(arrays: Arrays, column: number): Arrays {
  if (!('vector' in arrays)) return arrays
  return { ...arrays, vector: { type: 'float64', shape: [1], data: float64s(arrays.vector).slice(column, column + 1) } }
}
