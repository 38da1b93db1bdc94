/** Why an answer is what it is: what each input's value adds to an output, counted from the sample's average. */
import { rowOf, type Block, type Columns, type Value } from '../blocks'
import type { CompiledModel } from '../model'
import { shapleyOfCoalitions } from './coalitions'
import { stepPlaces, stepValues, type Curve, type StepPlaces } from './curves'
import { columnsOfBlocks } from './structure'
import { contributionsByPatterns, findPatterns, type Patterns } from './patterns'
import { leafWeights, treeContributions } from './treeContributions'
import { findTreeSum, sumOfLeaves, type TreeSum } from './treeSum'

/** With more inputs than this that reach the output, asking about every coalition takes too long. */
export const MOST_ENUMERATED = 10

export interface Explanation {
  method: 'exact-forest' | 'exact-enumeration'
  /** The average output over the sample rows. */
  baseline: number
  /** By input; they add up to the output less the baseline. */
  contributions: Record<string, number>
}

/** More inputs reach the output than can be asked about, and there is no quicker way for this kind of model. */
export class TooManyInputs extends Error {
  override name = 'TooManyInputs'
}

export class Explainer {
  readonly #model: CompiledModel
  readonly #sample: Columns
  readonly #nRows: number
  readonly #trees: TreeSum | null
  readonly #rows: Float64Array[]
  /** The inputs that can reach the output at all, by their places. */
  readonly #reaching: number[]
  /** What the sample comes to is worked out once; leaves, once for each output. */
  readonly #sampleOutputs: Block
  readonly #leaves = new Map<number, Float64Array>()
  /** Worked out when contributions are asked for the first time. */
  #patterns: { found: Patterns | null; weights: Float64Array[] } | undefined
  readonly #places = new Map<string, StepPlaces | null>()

  /**
   * `sample` has the rows that contributions are counted against, as raw columns.
   */
  constructor(model: CompiledModel, sample: Columns) {
    this.#model = model
    this.#sample = sample
    this.#nRows = sample[model.inputs[0].name].length
    this.#trees = findTreeSum(model.plan)
    this.#rows = this.#trees === null ? [] : this.#givenRows(this.#trees, sample)
    this.#sampleOutputs = model.predict(sample)
    const last = columnsOfBlocks(model.plan).get(model.plan.steps[model.plan.steps.length - 1].out) ?? []
    this.#reaching = [...new Set(last.flatMap(({ fields }) => [...fields]))].sort((a, b) => a - b)
  }

  /**
   * Contributions to output `of` for a row of raw values.
   *
   * Throws `TooManyInputs` where they cannot be worked out exactly.
   */
  explain(row: Record<string, Value>, of: number): Explanation {
    const baseline = this.#baseline(of)
    const places = this.#model.inputs
    if (this.#trees !== null) {
      const [given] = this.#givenRows(this.#trees, columnsOf(row))
      const found = this.#ofTrees(this.#trees, this.#leavesFor(this.#trees, of), given)
      return { method: 'exact-forest', baseline, contributions: Object.fromEntries(places.map(({ name }, at) => [name, found[at]])) }
    }
    const found = this.#enumerated(row, of)
    return { method: 'exact-enumeration', baseline, contributions: Object.fromEntries(places.map(({ name }, at) => [name, found.get(at) ?? 0])) }
  }

  /**
   * The exact curve of a number between two values, in output `of`; null where the model is no sum of trees, or makes
   * something of the number that does not only rise with it.
   */
  steps(row: Record<string, Value>, input: string, low: number, high: number, of: number): Curve | null {
    const field = this.#model.inputs.findIndex(({ name }) => name === input)
    const places = this.#trees && this.#placesOf(this.#trees, field, low, high)
    if (this.#trees === null || places === null) return null
    const [given] = this.#givenRows(this.#trees, columnsOf(row))
    const leaves = this.#leavesFor(this.#trees, of)
    const added = stepValues(this.#trees, leaves, given, field, places)
    // What is no leaf's is the same in every piece.
    const { data } = this.#model.predict(columnsOf(row))
    const start = data[of] - sumOfLeaves(this.#trees.nodes, leaves, given)
    return { shape: 'steps', x: [...places.starts], y: Array.from(added, (sum) => start + sum) }
  }

  /** The output at each of some values of an input. */
  options(row: Record<string, Value>, input: string, values: readonly Value[], of: number): Curve {
    const columns = Object.fromEntries(Object.entries(row).map(([name, value]) => [name, values.map(() => value)]))
    const { data, width } = this.#model.predict({ ...columns, [input]: values })
    return { shape: 'options', x: [...values], y: values.map((_, at) => data[at * width + of]) }
  }

  #placesOf(trees: TreeSum, field: number, low: number, high: number): StepPlaces | null {
    const key = `${field} ${low} ${high}`
    const known = this.#places.get(key)
    if (known !== undefined) return known
    const found = stepPlaces(trees, trees.columns, this.#model.plan, field, low, high)
    this.#places.set(key, found)
    return found
  }

  #ofTrees(trees: TreeSum, leaves: Float64Array, given: Float64Array): Float64Array {
    const nFields = this.#model.inputs.length
    this.#patterns ??= { found: findPatterns(trees, this.#rows, nFields), weights: leafWeights(trees, nFields) }
    const { found, weights } = this.#patterns
    if (found === null) return treeContributions(trees, leaves, given, this.#rows, weights, nFields)
    return contributionsByPatterns(trees, leaves, given, found, weights, nFields)
  }

  #leavesFor(trees: TreeSum, of: number): Float64Array {
    const leaves = this.#leaves.get(of) ?? trees.leavesFor(of)
    this.#leaves.set(of, leaves)
    return leaves
  }

  #baseline(of: number): number {
    const { data, width } = this.#sampleOutputs
    let sum = 0
    for (let row = 0; row < this.#nRows; row++) sum += data[row * width + of]
    return sum / this.#nRows
  }

  #givenRows({ given }: TreeSum, columns: Columns): Float64Array[] {
    const block = this.#model.block(given, columns)
    return Array.from({ length: block.rows }, (_, row) => rowOf(block, row))
  }

  /** By place of the input. */
  #enumerated(row: Record<string, Value>, of: number): Map<number, number> {
    const players = this.#reaching
    if (players.length > MOST_ENUMERATED) throw new TooManyInputs(`${players.length} inputs reach the output; ${MOST_ENUMERATED} can be asked about`)
    const values = Float64Array.from({ length: 1 << players.length }, (_, coalition) => this.#valueOf(coalition, players, row, of))
    const found = shapleyOfCoalitions(values, players.length)
    return new Map(players.map((place, at) => [place, found[at]]))
  }

  /** The average output of sample rows that have some of the case's values. */
  #valueOf(coalition: number, players: number[], row: Record<string, Value>, of: number): number {
    const mixed = { ...this.#sample }
    for (const [at, place] of players.entries()) {
      const { name } = this.#model.inputs[place]
      if (coalition & (1 << at)) mixed[name] = Array.from({ length: this.#nRows }, () => row[name])
    }
    const { data, width } = this.#model.predict(mixed)
    let sum = 0
    for (let at = 0; at < this.#nRows; at++) sum += data[at * width + of]
    return sum / this.#nRows
  }
}

function columnsOf(row: Record<string, Value>): Columns {
  return Object.fromEntries(Object.entries(row).map(([name, value]) => [name, [value]]))
}
