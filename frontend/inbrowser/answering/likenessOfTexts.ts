/** How like the reference texts a text is, as the server tells it: by which runs of three letters it has. */
import { crc32 } from '../../runtime/crc32'
import { SPACE_RUN } from '../../runtime/patterns'
import { folded } from '../../runtime/explain/words'
import type { LikenessOfText } from '../content'
import type { Familiarity } from './similarity'

const NEIGHBOURS = 3
const LETTERS = 3
const BUCKETS = 512
const MOST_CHARACTERS = 1000

export class LikenessOfTexts {
  readonly #along: LikenessOfText
  readonly #known: Float32Array[]

  constructor(texts: readonly string[], along: LikenessOfText) {
    this.#along = along
    this.#known = texts.map(describe)
  }

  familiarity(text: string): Familiarity {
    const { unit, threshold, usual } = this.#along
    const own = describe(text)
    const squares = Float64Array.from(this.#known, (known) => squareApart(known, own)).sort()
    const nearest = squares.subarray(0, NEIGHBOURS)
    const distance = nearest.reduce((sum, square) => sum + Math.sqrt(square), 0) / nearest.length / unit
    const share = (1 + usual.filter((one) => one >= distance).length) / (1 + usual.length)
    return { distance, share_as_far: share, is_unlike: distance > threshold }
  }
}

/** A text's runs of three letters, counted in hashed places, of length one. */
function describe(text: string): Float32Array {
  const beginning = [...text].slice(0, MOST_CHARACTERS).join('')
  const characters = [...`  ${folded(beginning).replace(SPACE_RUN, ' ')} `]
  const counts = new Float32Array(BUCKETS)
  for (let at = 0; at + LETTERS <= characters.length; at++) counts[crc32(encoder.encode(characters.slice(at, at + LETTERS).join(''))) % BUCKETS] += 1
  const length = Math.sqrt(counts.reduce((sum, count) => sum + count * count, 0))
  return length ? counts.map((count) => count / length) : counts
}

function squareApart(a: Float32Array, b: Float32Array): number {
  let sum = 0
  for (let at = 0; at < a.length; at++) sum += (a[at] - b[at]) ** 2
  return sum
}

const encoder = new TextEncoder()
