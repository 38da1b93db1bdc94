/**
 * Contributions of anything by a sample of orders, with their standard errors: each order is walked forward and backward
 * with the same sample row, and a round meets every sample row once (Štrumbelj and Kononenko 2014, algorithm 1).
 */

/** The outputs of rows that take some players from the case and the rest from a sample row. */
export type Mixed = (takes: Uint8Array[], rows: number[]) => Float64Array

export interface Sampled {
  contributions: Float64Array
  errors: Float64Array
}

export interface SamplingOptions {
  nPlayers: number
  nRows: number
  /** Same seed, same orders. */
  seed: number
  /** The most it may take, in milliseconds. */
  most: number
  /** A standard error too small to be seen, in the output's own unit. */
  smallError: number
  /** Stop after about so many pairs of orders, whatever the error. */
  mostPairs?: number
  /** What the contributions add up to, which is known; null where they are to stay as they were found. */
  total: number | null
  now: () => number
}

const ORDERS_AT_ONCE = 25
const ROWS_AT_ONCE = 2000
const ENOUGH_ROUNDS = 6
/** The 97.5 % quantile of Student's distribution by degrees of freedom, and of the normal one. */
const STUDENT = [Infinity, 12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228, 2.201, 2.179, 2.16, 2.145]
const NORMAL = 1.96

/** Sum and sum of squares of arrays as they come. */
class Moments {
  n = 0
  readonly #total: Float64Array
  readonly #squares: Float64Array

  constructor(length: number) {
    this.#total = new Float64Array(length)
    this.#squares = new Float64Array(length)
  }

  add(values: Float64Array): void {
    this.n += 1
    for (const [at, value] of values.entries()) {
      this.#total[at] += value
      this.#squares[at] += value * value
    }
  }

  get mean(): Float64Array {
    return this.#total.map((sum) => sum / this.n)
  }

  /** Of the mean. */
  get errors(): Float64Array {
    const { n } = this
    const variance = this.#squares.map((square, at) => Math.max(square - this.#total[at] ** 2 / n, 0) / Math.max(n - 1, 1))
    // Where a handful agree by chance the other players tell what is usual.
    const usual = (variance.reduce((sum, one) => sum + one, 0) / variance.length) * (2 / (n * Math.max(n - 1, 1)))
    const free = Math.max(1, n - 1)
    const factor = free < STUDENT.length ? STUDENT[free] / NORMAL : 1 + 1.3 / free
    return variance.map((one) => Math.sqrt((one + usual) / n) * factor)
  }
}

export function sampleOrders(ask: Mixed, options: SamplingOptions): Sampled {
  const { nPlayers, nRows, now } = options
  const random = generator(options.seed)
  const deadline = now() + options.most
  const [pairs, rounds] = [new Moments(nPlayers), new Moments(nPlayers)]
  const atOnce = Math.max(2, Math.min(ORDERS_AT_ONCE, Math.floor(ROWS_AT_ONCE / (nPlayers + 1))))
  for (;;) {
    const met = new Moments(nPlayers)
    const rows = shuffled(nRows, random)
    for (let start = 0; start < nRows && !(now() > deadline && pairs.n >= 2); start += atOnce) {
      const some = rows.slice(start, start + atOnce)
      const orders = some.map(() => shuffled(nPlayers, random))
      const [forward, backward] = [walk(ask, orders, some), walk(ask, orders.map((order) => order.slice().reverse()), some)]
      for (const [at, steps] of forward.entries()) {
        const walked = steps.map((step, player) => (step + backward[at][player]) / 2)
        pairs.add(walked)
        met.add(walked)
      }
    }
    // A round that was cut short has met some sample rows more often than others.
    if (met.n === nRows) rounds.add(met.mean)
    const found = rounds.n >= ENOUGH_ROUNDS ? rounds : pairs
    const errors = found.errors
    const isEnough = rounds.n >= ENOUGH_ROUNDS && Math.max(...errors) <= options.smallError
    const isOver = now() > deadline || pairs.n >= (options.mostPairs ?? Infinity)
    if (isEnough || (isOver && pairs.n >= 2)) return { contributions: options.total === null ? found.mean : addingUp(found.mean, errors, options.total), errors }
  }
}

/** Estimates that add up to `total`: normal ones, given their sum. */
function addingUp(mean: Float64Array, errors: Float64Array, total: number): Float64Array {
  const all = errors.reduce((sum, error) => sum + error * error, 0)
  const missing = total - mean.reduce((sum, one) => sum + one, 0)
  return mean.map((one, at) => one + (all > 0 ? (errors[at] * errors[at]) / all : 1 / mean.length) * missing)
}

/** What each player added when its turn came, for each order. */
function walk(ask: Mixed, orders: number[][], rows: number[]): Float64Array[] {
  const takes: Uint8Array[] = []
  const whose: number[] = []
  for (const [at, order] of orders.entries()) {
    const taken = new Uint8Array(order.length)
    takes.push(taken.slice())
    whose.push(rows[at])
    for (const player of order) {
      taken[player] = 1
      takes.push(taken.slice())
      whose.push(rows[at])
    }
  }
  const outputs = ask(takes, whose)
  let place = 0
  return orders.map((order) => {
    const steps = new Float64Array(order.length)
    for (const [turn, player] of order.entries()) steps[player] = outputs[place + turn + 1] - outputs[place + turn]
    place += order.length + 1
    return steps
  })
}

function shuffled(n: number, random: () => number): number[] {
  const places = Array.from({ length: n }, (_, at) => at)
  for (let at = n - 1; at > 0; at--) {
    const other = Math.floor(random() * (at + 1))
    ;[places[at], places[other]] = [places[other], places[at]]
  }
  return places
}

/** Numbers from 0 up to 1 by a 32-bit counter that is mixed (Steele et al. 2014, "Fast Splittable Pseudorandom Number Generators"). */
export function generator(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x9e3779b9) >>> 0
    let mixed = Math.imul(state ^ (state >>> 16), 0x85ebca6b)
    mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35)
    return ((mixed ^ (mixed >>> 16)) >>> 0) / 2 ** 32
  }
}

/** A seed made of a text. */
export function seedOf(text: string): number {
  let seed = 0x811c9dc5
  for (const character of text) seed = Math.imul(seed ^ (character.codePointAt(0) ?? 0), 0x01000193)
  return seed >>> 0
}
