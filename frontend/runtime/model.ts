/** A compiled model that can be asked. */
import type { Arrays, Block, Columns, Settings } from './blocks'
import { readContainer, type WrittenPlan } from './container'
import { OPERATIONS } from './operations'
import type { Operation } from './operations/registry'
import { arraysOf, type Input } from './plan'

interface ReadyStep {
  run: Operation['run']
  out: string
  inputs: string[]
  arrays: Arrays
  settings: Settings
}

export class CompiledModel {
  /** What its file says, checked. */
  readonly plan: WrittenPlan
  /** The raw columns it takes. */
  readonly inputs: readonly Input[]
  /** How many numbers a row has in its output. */
  readonly nOutputs: number
  readonly #steps: ReadyStep[]

  /**
   * `content` is the whole file. Throws `ModelDamaged` if it is none, or not what was written.
   */
  constructor(content: Uint8Array) {
    this.plan = readContainer(content)
    const { inputs, steps, arrays } = this.plan
    this.inputs = inputs
    this.nOutputs = steps[steps.length - 1].width
    this.#steps = steps.map((step) => ({
      run: OPERATIONS[step.op].run,
      out: step.out,
      inputs: step.inputs,
      arrays: arraysOf(step, arrays),
      settings: step.settings,
    }))
  }

  /**
   * Outputs of shape (rows, `nOutputs`): probabilities in class order, 1 at the predicted class, or numbers.
   *
   * `columns` has the raw values of every input, one a row; null where one is missing. Throws `ValueNotKnown` for a
   * value that the original refuses, `RangeError` where a column is missing or of another length.
   */
  predict(columns: Columns): Block {
    return this.block(this.#steps[this.#steps.length - 1].out, columns)
  }

  /** Every input is there, as often as the others: a caller's slip is told, not computed with. */
  #check(columns: Columns): void {
    const [first] = this.inputs
    for (const { name } of this.inputs) {
      if (!Object.hasOwn(columns, name)) throw new RangeError(`The column \`${name}\` is missing.`)
      const [own, others] = [columns[name].length, columns[first.name].length]
      if (own !== others) throw new RangeError(`\`${name}\` has ${own} rows, and \`${first.name}\` ${others}.`)
    }
  }

  /** The block of a name, on the way to the output or the output itself. */
  block(name: string, columns: Columns): Block {
    this.#check(columns)
    const made = new Map<string, Block>()
    for (const { run, out, inputs, arrays, settings } of this.#steps) {
      const block = run(inputs.map((one) => made.get(one) as Block), arrays, settings, columns)
      if (out === name) return block
      made.set(out, block)
    }
    throw new RangeError(`there is no block \`${name}\``)
  }
}
