/** Why an answer is what it is: what each input's value adds to an output, counted from the sample's average. */
import { rowOf, type Block, type Columns, type Value } from '../blocks'
import type { CompiledModel } from '../model'
import { shapleyOfCoalitions } from './coalitions'
import { knownPlaces, stepPlaces, stepValues, type Curve, type StepPlaces } from './curves'
import { columnsOfBlocks, isAdditive } from './structure'
import { contributionsByPatterns, findPatterns, type Patterns } from './patterns'
import { leafWeights, treeContributions } from './treeContributions'
import { sampleOrders, seedOf } from './orders'
import { findTreeSum, sumOfLeaves, type TreeSum } from './treeSum'

/** With more inputs than this that reach the output, asking about every coalition takes too long. */
export const MOST_ENUMERATED = 10
/** What asking about every coalition may take, and what a sample of orders may, in milliseconds. */
const MOST_ENUMERATING = 1500
const MOST_SAMPLING = 150
const TIMED = 4
/** A standard error too small to be seen, of the range that the sample's outputs cover. */
const SMALL_ERROR = 0.002

export interface Explanation {
  method: 'exact-forest' | 'exact-linear' | 'exact-enumeration' | 'sampled'
  /** The average output over the sample rows. */
  baseline: number
  /** By input; they add up to the output less the baseline. */
  contributions: Record<string, number>
  /** By input, where they were sampled: how far off they may be (one standard error). */
  errors: Record<string, number>
}

export class Explainer {
  readonly #model: CompiledModel
  readonly #sample: Columns
  readonly #nRows: number
  readonly #trees: TreeSum | null
  readonly #rows: Float64Array[]
  /** The inputs that can reach the output at all, by their places. */
  readonly #reaching: number[]
  /** Whether the output is a sum of what each input comes to by itself. */
  readonly #isAdditive: boolean
  /** What the sample comes to is worked out once; leaves, once for each output. */
  readonly #sampleOutputs: Block
  readonly #leaves = new Map<number, Float64Array>()
  /** Worked out when contributions are asked for the first time. */
  #patterns: { found: Patterns | null; weights: Float64Array[] } | undefined
  readonly #places = new Map<string, StepPlaces | null>()
  /** How long the model takes for a row when it is asked about many, in milliseconds. */
  readonly rowTime: number

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
    // Code that has never run, and a machine that does something else, take many times as long: the quickest of some counts.
    const times = Array.from({ length: TIMED }, () => {
      const begun = performance.now()
      model.predict(sample)
      return performance.now() - begun
    })
    this.rowTime = Math.min(...times) / this.#nRows
    this.#isAdditive = isAdditive(model.plan)
    const last = columnsOfBlocks(model.plan).get(model.plan.steps[model.plan.steps.length - 1].out) ?? []
    this.#reaching = [...new Set(last.flatMap(({ fields }) => [...fields]))].sort((a, b) => a - b)
  }

  /** How many sample rows contributions are counted against. */
  get nRows(): number {
    return this.#nRows
  }

  /**
   * Contributions to output `of` for a row of raw values: exact for sums of trees and for few inputs, else sampled, with
   * their errors.
   */
  explain(row: Record<string, Value>, of: number): Explanation {
    const baseline = this.usual(of)
    const places = this.#model.inputs
    const byName = (found: Float64Array) => Object.fromEntries(places.map(({ name }, at) => [name, found[at]]))
    if (this.#trees !== null) {
      const [given] = this.#givenRows(this.#trees, columnsOf(row))
      const found = this.#ofTrees(this.#trees, this.#leavesFor(this.#trees, of), given)
      return { method: 'exact-forest', baseline, contributions: byName(found), errors: {} }
    }
    const players = this.#reaching
    const everyone = (found: Float64Array) => byName(Float64Array.from(places, (_, place) => found[players.indexOf(place)] ?? 0))
    if (this.#isAdditive && players.length > 1) {
      return { method: 'exact-linear', baseline, contributions: everyone(this.#added(row, of, baseline)), errors: {} }
    }
    if (players.length <= MOST_ENUMERATED && (1 << players.length) * this.#nRows * this.rowTime <= MOST_ENUMERATING) {
      return { method: 'exact-enumeration', baseline, contributions: everyone(this.#enumerated(row, of)), errors: {} }
    }
    const { contributions, errors } = this.#sampled(row, of, baseline)
    return { method: 'sampled', baseline, contributions: everyone(contributions), errors: everyone(errors) }
  }

  /**
   * The exact curve of a number between two values, in output `of`; null where the model is no sum of trees, or makes
   * something of the number that does not only rise with it. `starts`, where they are known, are the smallest values of
   * its pieces, and are not looked for again.
   */
  steps(row: Record<string, Value>, input: string, low: number, high: number, of: number, starts?: readonly number[]): Curve | null {
    const field = this.#model.inputs.findIndex(({ name }) => name === input)
    const places = this.#trees && this.#placesOf(this.#trees, field, low, high, starts)
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

  #placesOf(trees: TreeSum, field: number, low: number, high: number, starts?: readonly number[]): StepPlaces | null {
    const key = `${field} ${low} ${high}`
    const known = this.#places.get(key)
    if (known !== undefined) return known
    const { plan } = this.#model
    const found = starts === undefined ? stepPlaces(trees, trees.columns, plan, field, low, high) : knownPlaces(trees, trees.columns, plan, field, Float64Array.from(starts))
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

  /** The average of an output over the sample rows. */
  usual(of: number): number {
    const { data, width } = this.#sampleOutputs
    let sum = 0
    for (let row = 0; row < this.#nRows; row++) sum += data[row * width + of]
    return sum / this.#nRows
  }

  #givenRows({ given }: TreeSum, columns: Columns): Float64Array[] {
    const block = this.#model.block(given, columns)
    return Array.from({ length: block.rows }, (_, row) => rowOf(block, row))
  }

  /** Of a sum every order of its parts gives the same: what taking one of them from the case changes on average. */
  #added(row: Record<string, Value>, of: number, baseline: number): Float64Array {
    return Float64Array.from(this.#reaching, (player) => this.#valueOf(1, [player], row, of) - baseline)
  }

  /** One a player. */
  #enumerated(row: Record<string, Value>, of: number): Float64Array {
    const players = this.#reaching
    const values = Float64Array.from({ length: 1 << players.length }, (_, coalition) => this.#valueOf(coalition, players, row, of))
    return shapleyOfCoalitions(values, players.length)
  }

  #sampled(row: Record<string, Value>, of: number, baseline: number) {
    const players = this.#reaching
    const { data, width } = this.#sampleOutputs
    const own = Array.from({ length: this.#nRows }, (_, at) => data[at * width + of])
    const range = Math.max(...own) - Math.min(...own)
    return sampleOrders((takes, rows) => this.#mixed(row, takes, rows, of), {
      nPlayers: players.length,
      nRows: this.#nRows,
      seed: seedOf(JSON.stringify(row)),
      most: MOST_SAMPLING,
      smallError: SMALL_ERROR * (range > 0 ? range : 1),
      total: this.#model.predict(columnsOf(row)).data[of] - baseline,
      now: () => performance.now(),
    })
  }

  /** Output `of` of sample rows, each with some players from the case. */
  #mixed(row: Record<string, Value>, takes: Uint8Array[], rows: number[], of: number): Float64Array {
    const columns = Object.fromEntries(
      this.#model.inputs.map(({ name }, place): [string, Value[]] => {
        const player = this.#reaching.indexOf(place)
        return [name, rows.map((other, at) => (player >= 0 && takes[at][player] ? row[name] : this.#sample[name][other]))]
      }),
    )
    const { data, width } = this.#model.predict(columns)
    return Float64Array.from(rows, (_, at) => data[at * width + of])
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
