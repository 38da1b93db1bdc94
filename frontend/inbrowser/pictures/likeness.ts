/** How like the known pictures one is, by a description of what the model sees of it: `Likeness` of the server. */
import { described } from '../../runtime/pictures/describing'
import type { Pixels } from '../../runtime/pictures/pixels'
import type { Familiarity } from '../answering/similarity'

const NEIGHBOURS = 3

export interface LikenessOfPictures {
  /** How pictures were prepared when the known ones were described. */
  described_as: unknown
  /** Of the known ones single precision in base64, one after the other, as far from the middle in spreads as they are. */
  known: string
  middle: number[]
  spread: number[]
  /** What 99 in 100 known ones have their nearest others within, and lie within themselves. */
  units: [number, number]
  usual: number[]
  threshold: number
}

export class KnownPictures {
  readonly #told: LikenessOfPictures
  readonly #known: Float32Array

  constructor(told: LikenessOfPictures) {
    this.#told = told
    this.#known = new Float32Array(Uint8Array.from(atob(told.known), (character) => character.charCodeAt(0)).buffer)
  }

  familiarity(seen: Pixels): Familiarity {
    const { middle, spread, units, usual, threshold } = this.#told
    const own = described(seen).map((value, at) => (value - Math.fround(middle[at])) / Math.fround(spread[at]))
    const near = this.#nearness(own) / units[0]
    const outside = Math.max(...own.map(Math.abs)) / units[1]
    const distance = Math.max(near, outside)
    const share = (1 + usual.filter((one) => one >= distance).length) / (1 + usual.length)
    return { distance, share_as_far: share, is_unlike: distance > threshold }
  }

  #nearness(own: Float32Array): number {
    const n = own.length
    const squares = new Float64Array(this.#known.length / n)
    for (let row = 0; row < squares.length; row++) for (let at = 0; at < n; at++) squares[row] += (this.#known[row * n + at] - own[at]) ** 2
    const nearest = squares.sort().subarray(0, NEIGHBOURS)
    return nearest.reduce((sum, one) => sum + Math.sqrt(one), 0) / nearest.length
  }
}
