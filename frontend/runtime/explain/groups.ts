/**
 * Contributions of parts that can be covered: patches of a picture, strokes of a drawing; sharper the longer it works.
 * `core/explain/groups.py` once more, with the same groups: first each part is covered by itself, then all groups, if
 * there is time for all, or random ones with their opposites to which a least squares fit is made (Charnes et al. 1988; Covert and Lee
 * 2021).
 */
import { shapleyOfCoalitions } from './coalitions'
import { inverted } from './inverting'
import { generator } from './orders'

/** Parts of which all groups may be asked about, if as many may be asked about in all. */
const MOST_EXACT = 9
export const MOST_PAIRS = 3000
const PAIRS_DRAWN = 48
const PAIRS_BETWEEN_CHECKS = 192
const FEWEST_PAIRS_A_PART = 1
const SMALL_ERROR = 0.02
const TINY = 1e-9

export interface GroupState {
  method: 'sketch' | 'sampled' | 'exact-enumeration'
  whole: number
  covered: number
  contributions: Float64Array
  /** Row by row; NaN in a sketch. */
  covariance: Float64Array
  nAsked: number
  isDone: boolean
}

/** From which parts are shown, group by group, to answers. */
export type AskGroups = (shown: Uint8Array[]) => Promise<Float64Array>

export class GroupContributions {
  readonly #ask: AskGroups
  readonly #n: number
  readonly #mostPairs: number
  readonly #isExact: boolean
  readonly #random: () => number
  readonly #shown: Uint8Array[] = []
  readonly #answers: number[] = []
  #coming: Uint8Array[] = []
  #range = TINY
  #nAsked = 0
  #isDone = false
  #state: GroupState

  private constructor(ask: AskGroups, nParts: number, seed: number, mostPairs: number, first: Float64Array) {
    this.#ask = ask
    this.#n = nParts
    this.#mostPairs = mostPairs
    this.#isExact = nParts <= MOST_EXACT && 1 << nParts <= 2 * mostPairs
    this.#random = generator(seed)
    this.#nAsked = first.length
    this.#range = Math.max(Math.abs(first[0] - first[1]), Math.max(...first) - Math.min(...first), TINY)
    this.#state = this.#sketched(first)
  }

  /** Ask about the whole, the covered one, and each part covered by itself. */
  static async begun(ask: AskGroups, nParts: number, seed: number, mostPairs = MOST_PAIRS): Promise<GroupContributions> {
    const alone = Array.from({ length: nParts }, (_, part) => Uint8Array.from({ length: nParts }, (_own, at) => Number(at !== part)))
    const first = await ask([new Uint8Array(nParts).fill(1), new Uint8Array(nParts), ...alone])
    return new GroupContributions(ask, nParts, seed, mostPairs, first)
  }

  /** What is known so far. */
  get state(): GroupState {
    const known = !this.#isExact && this.#nPairs >= FEWEST_PAIRS_A_PART * this.#n ? (this.#fitted() ?? this.#state) : this.#state
    return { ...known, isDone: this.isDone, nAsked: this.#nAsked }
  }

  get isDone(): boolean {
    return this.#isDone || this.#state.isDone
  }

  /** Ask about so many more groups, or fewer; nothing happens once all is known. */
  async advance(nGroups: number): Promise<void> {
    if (this.isDone) return
    if (this.#isExact) return this.#advanceAmongAll(nGroups)
    if (this.#coming.length === 0) this.#coming = this.#drawn()
    const half = this.#coming.splice(0, Math.min(Math.max(1, Math.floor(nGroups / 2)), this.#mostPairs - this.#nPairs))
    const pairs = half.flatMap((shown) => [shown, shown.map((one) => 1 - one)])
    const answers = await this.#ask(pairs)
    this.#nAsked += pairs.length
    this.#shown.push(...pairs)
    this.#answers.push(...answers)
    if (this.#nPairs >= this.#mostPairs) this.#isDone = true
    else if (this.#nPairs % PAIRS_BETWEEN_CHECKS === 0 && this.#nPairs >= FEWEST_PAIRS_A_PART * this.#n) this.#isDone = this.#isSharp()
  }

  get #nPairs(): number {
    return this.#answers.length / 2
  }

  #isSharp(): boolean {
    const covariance = this.#fitted()?.covariance
    if (!covariance) return false
    return Array.from({ length: this.#n }, (_, at) => Math.sqrt(Math.max(covariance[at * this.#n + at], 0))).every((error) => error <= SMALL_ERROR * this.#range)
  }

  /** What each part does alone, made to add up; nothing is said about errors. */
  #sketched([whole, covered, ...others]: Float64Array): GroupState {
    const total = whole - covered
    const nAsked = this.#nAsked
    if (this.#n === 1) return { method: 'exact-enumeration', whole, covered, contributions: Float64Array.of(total), covariance: new Float64Array(1), nAsked, isDone: true }
    const alone = others.map((other) => whole - other)
    const missing = (total - alone.reduce((sum, one) => sum + one, 0)) / this.#n
    return { method: 'sketch', whole, covered, contributions: Float64Array.from(alone, (one) => one + missing), covariance: new Float64Array(this.#n ** 2).fill(Number.NaN), nAsked, isDone: false }
  }

  /** Of all groups the next ones; exact once all are known. */
  async #advanceAmongAll(nGroups: number): Promise<void> {
    const all = 1 << this.#n
    const nKnown = this.#answers.length
    const next = Array.from({ length: Math.min(Math.max(1, nGroups), all - nKnown) }, (_, at) => nKnown + at)
    this.#answers.push(...(await this.#ask(next.map((group) => Uint8Array.from({ length: this.#n }, (_own, part) => (group >> part) & 1)))))
    this.#nAsked += next.length
    if (this.#answers.length < all) return
    const contributions = shapleyOfCoalitions(Float64Array.from(this.#answers), this.#n)
    this.#state = { ...this.#state, method: 'exact-enumeration', contributions, covariance: new Float64Array(this.#n ** 2), isDone: true }
  }

  /** Random groups: sizes k with weight 1 / (k (n − k)), members by chance. */
  #drawn(): Uint8Array[] {
    let all = 0
    const reached = Array.from({ length: this.#n - 1 }, (_, at) => (all += 1 / ((at + 1) * (this.#n - at - 1))))
    return Array.from({ length: PAIRS_DRAWN }, () => {
      const drawn = this.#random() * all
      const others = reached.slice(0, -1).filter((one) => one <= drawn).length
      const ranks = Float64Array.from({ length: this.#n }, () => this.#random())
      const limit = ranks.slice().sort()[others]
      return Uint8Array.from(ranks, (rank) => Number(rank <= limit))
    })
  }

  /** Least squares among contributions that add up; errors from how far pairs are off the fit. Null where there is no one fit. */
  #fitted(): GroupState | null {
    const n = this.#n
    const { whole, covered } = this.#state
    const nGroups = this.#answers.length
    const products = new Float64Array(n * n)
    const along = new Float64Array(n)
    for (const [group, shown] of this.#shown.entries()) {
      for (let row = 0; row < n; row++) {
        if (!shown[row]) continue
        along[row] += (this.#answers[group] - covered) / nGroups
        for (let column = 0; column < n; column++) if (shown[column]) products[row * n + column] += 1 / nGroups
      }
    }
    const inverse = inverted(products, n)
    if (!inverse) return null
    const sums = Float64Array.from({ length: n }, (_, row) => inverse.subarray(row * n, (row + 1) * n).reduce((sum, one) => sum + one, 0))
    const all = sums.reduce((sum, one) => sum + one, 0)
    const free = inverse.map((value, at) => value - (sums[Math.floor(at / n)] * sums[at % n]) / all)
    const found = times(free, along, n).map((value, at) => value + (sums[at] / all) * (whole - covered))
    return { ...this.#state, method: 'sampled', contributions: found, covariance: this.#covariance(free, found) }
  }

  #covariance(free: Float64Array, found: Float64Array): Float64Array {
    const n = this.#n
    const spread = new Float64Array(n * n)
    const pair = new Float64Array(n)
    for (const [group, shown] of this.#shown.entries()) {
      const off = this.#answers[group] - this.#state.covered - shown.reduce((sum, one, at) => sum + one * found[at], 0)
      for (let at = 0; at < n; at++) pair[at] += off * shown[at]
      if (group % 2 === 0) continue
      for (let row = 0; row < n; row++) for (let column = 0; column < n; column++) spread[row * n + column] += pair[row] * pair[column]
      pair.fill(0)
    }
    // Of the pairs, as many as there are parts are used up by the fit.
    const scale = this.#nPairs / Math.max(1, this.#nPairs - n / 2) / this.#answers.length ** 2
    return multiplied(multiplied(free, spread, n), free, n).map((value) => value * scale)
  }
}

function times(matrix: Float64Array, vector: Float64Array, n: number): Float64Array {
  return vector.map((_, row) => matrix.subarray(row * n, (row + 1) * n).reduce((sum, value, column) => sum + value * vector[column], 0))
}

function multiplied(one: Float64Array, other: Float64Array, n: number): Float64Array {
  const product = new Float64Array(n * n)
  for (let row = 0; row < n; row++) {
    for (let inner = 0; inner < n; inner++) {
      const value = one[row * n + inner]
      for (let column = 0; column < n; column++) product[row * n + column] += value * other[inner * n + column]
    }
  }
  return product
}
