/** A compiled model: its inputs, its steps, its arrays. There is no code in it: `op` names what a step does. */
import type { Arrays, Settings } from './blocks'
import { ModelDamaged } from './errors'
import { OPERATIONS } from './operations'

export const VERSION = 1

export interface Input {
  name: string
  kind: 'number' | 'category' | 'text'
}

export interface Step {
  op: string
  /** The block that it writes, and how wide that is. */
  out: string
  width: number
  /** Blocks that it reads. */
  inputs: string[]
  /** Arrays that it reads, by the part they play. */
  arrays: Record<string, string>
  settings: Settings
}

export interface Plan {
  version: number
  inputs: Input[]
  /** The last one's block is the output. */
  steps: Step[]
  arrays: Arrays
}

/**
 * A plan as it was written, with everything checked that operations trust.
 *
 * Throws `ModelDamaged` if a step reads what is not there, or its parts do not fit together.
 */
export function readPlan(written: Omit<Plan, 'arrays'>, arrays: Arrays): Plan {
  const { version, inputs, steps } = written
  if (version !== VERSION) throw new ModelDamaged(`this is version ${version} of the format; ${VERSION} is read here`)
  if (!Array.isArray(inputs) || !Array.isArray(steps) || steps.length === 0) throw new ModelDamaged('there are no steps')
  const columns = new Set(inputs.map(({ name }) => name))
  if (columns.size < inputs.length) throw new ModelDamaged('an input is named twice')
  const widths = new Map<string, number>()
  for (const step of steps) {
    widths.set(step.out, widthOf(step, widths, columns, arrays))
  }
  return { version, inputs, steps, arrays }
}

function widthOf(step: Step, widths: Map<string, number>, columns: Set<string>, arrays: Arrays): number {
  const operation = Object.hasOwn(OPERATIONS, step.op) ? OPERATIONS[step.op] : undefined
  if (operation === undefined) throw new ModelDamaged(`there is no operation \`${step.op}\``)
  if (step.inputs.some((name) => !widths.has(name))) throw new ModelDamaged(`\`${step.op}\` reads a block that no step before it has written`)
  if (Object.values(step.arrays).some((name) => !Object.hasOwn(arrays, name))) throw new ModelDamaged(`\`${step.op}\` reads an array that is not there`)
  const read = (step.settings.columns ?? []) as string[]
  if (read.some((name) => !columns.has(name))) throw new ModelDamaged(`\`${step.op}\` reads a column that is no input`)
  let width
  try {
    width = operation.width(step.inputs.map((name) => widths.get(name) ?? 0), arraysOf(step, arrays), step.settings)
  } catch (error) {
    throw new ModelDamaged(`\`${step.op}\` does not fit together: ${(error as Error).message}`)
  }
  if (width !== step.width || widths.has(step.out)) throw new ModelDamaged(`\`${step.op}\` writes a block of another width, or twice`)
  return width
}

/** A step's arrays by the part they play in it. */
export function arraysOf(step: Step, arrays: Arrays): Arrays {
  return Object.fromEntries(Object.entries(step.arrays).map(([part, name]) => [part, arrays[name]]))
}
