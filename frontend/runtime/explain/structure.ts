/** What depends on what in a plan: which inputs each column of each block is made of. */
import { float64s } from '../blocks'
import type { Plan, Step } from '../plan'

/** Of each number by itself: a column of the result is made of what that column was made of. */
const ALONE = new Set(
  `add subtract multiply divide at_least at_most power above fill zero_as_missing float32 is_missing exp log1p expm1 log log2 log10 sqrt cbrt square
  signed_square absolute negative reciprocal sin cos tan tanh arctan floor ceil rint sign sigmoid log_counts normal_share yeo_johnson un_yeo_johnson
  box_cox un_box_cox interpolated codes_of_numbers`.split(/\s+/),
)

/** The inputs that a column is made of, by their places. */
export type Fields = ReadonlySet<number>

/** For every block the inputs that each of its columns is made of. */
export function fieldsOfBlocks(plan: Plan): Map<string, Fields[]> {
  const places = new Map(plan.inputs.map(({ name }, at) => [name, at]))
  const blocks = new Map<string, Fields[]>()
  for (const step of plan.steps) {
    const inputs = step.inputs.map((name) => blocks.get(name) ?? [])
    blocks.set(step.out, fieldsOfStep(step, inputs, plan, places))
  }
  return blocks
}

function fieldsOfStep(step: Step, inputs: Fields[][], plan: Plan, places: Map<string, number>): Fields[] {
  const read = ((step.settings.columns ?? []) as string[]).map((name) => new Set([places.get(name) ?? -1]))
  if (step.op === 'numbers') return read
  if (step.op === 'codes' || step.op === 'count_terms') return Array.from({ length: step.width }, () => read[0])
  if (step.op === 'join') return inputs.flat()
  if (step.op === 'take') return (step.settings.places as number[]).map((at) => inputs[0][at])
  if (ALONE.has(step.op)) return inputs[0]
  if (step.op === 'sum') return inputs[0].map((_, at) => united(inputs.map((block) => block[at])))
  if (step.op === 'linear') return Array.from({ length: step.width }, (_, to) => weighed(step, plan, inputs[0], to))
  if (step.op === 'forest' || step.op === 'boosted') {
    const asked = new Set(plan.arrays[step.arrays.feature].data as Int32Array)
    const whole = united(inputs[0].filter((_, at) => asked.has(at)))
    return Array.from({ length: step.width }, () => whole)
  }
  // Whatever else there is may use all it is given for each of its columns.
  return Array.from({ length: step.width }, () => united(inputs.flat()))
}

function weighed(step: Step, plan: Plan, columns: Fields[], to: number): Fields {
  const weights = float64s(plan.arrays[step.arrays.weights])
  return united(columns.filter((_, at) => weights[at * step.width + to] !== 0))
}

function united(columns: readonly Fields[]): Fields {
  return new Set(columns.flatMap((fields) => [...fields]))
}
