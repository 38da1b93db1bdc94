/** Patches of a picture: which there are, the model's input with some of them covered, and where they lie in words. */
import { roundedToEven, type Pixels } from './pixels'
import { asInput, type Preparation } from './preparing'

export const MOST_PATCHES_ACROSS = 7
const SMALLEST_PATCH = 4
const DOWN = ['upper', 'middle', 'lower']
const ACROSS = ['left', 'middle', 'right']

/** A prepared picture in rows and columns of patches. */
export interface PatchGrid {
  nRows: number
  nColumns: number
  /** To which patch each number of the input belongs. */
  patchOf: Uint16Array
  /** The input as it is, and with all of it covered by the picture's average. */
  shown: Float32Array
  covered: Float32Array
}

export function patchGrid(seen: Pixels, preparation: Preparation, mostAcross = MOST_PATCHES_ACROSS): PatchGrid {
  const { width, height, channels, data } = seen
  const [nRows, nColumns] = [height, width].map((side) => Math.max(1, Math.min(mostAcross, Math.floor(side / SMALLEST_PATCH))))
  const patchOf = new Uint16Array(data.length)
  for (let y = 0; y < height; y++) {
    const row = Math.min(Math.floor((y * nRows) / height), nRows - 1)
    for (let x = 0; x < width; x++) {
      const patch = row * nColumns + Math.min(Math.floor((x * nColumns) / width), nColumns - 1)
      for (let channel = 0; channel < channels; channel++) {
        patchOf[preparation.layout === 'channels first' ? (channel * height + y) * width + x : (y * width + x) * channels + channel] = patch
      }
    }
  }
  const sums = new Float64Array(channels)
  for (const [at, value] of data.entries()) sums[at % channels] += value
  const colour = [...sums].map((sum) => roundedToEven(sum / (width * height)))
  const blank = { ...seen, data: data.map((_, at) => colour[at % channels]) }
  return { nRows, nColumns, patchOf, shown: asInput(seen, preparation).data, covered: asInput(blank, preparation).data }
}

/** The input with only some patches shown. */
export function withPatches({ patchOf, shown, covered }: PatchGrid, isShown: Uint8Array): Float32Array {
  return shown.map((value, at) => (isShown[patchOf[at]] ? value : covered[at]))
}

export interface RegionSum {
  words: string
  contribution: number
  /** Its standard error; NaN in a sketch. */
  error: number
}

/** What the ninths of a picture contribute, the largest first; `covariance` row by row. */
export function regionSums(contributions: Float64Array, covariance: Float64Array, nRows: number, nColumns: number): RegionSum[] {
  const third = (at: number, n: number) => Math.min(Math.floor(((at + 0.5) / n) * 3), 2)
  const places = new Map<string, number[]>()
  for (let at = 0; at < contributions.length; at++) {
    const [down, across] = [DOWN[third(Math.floor(at / nColumns), nRows)], ACROSS[third(at % nColumns, nColumns)]]
    const words = down === 'middle' && across === 'middle' ? 'centre' : `${down} ${across}`
    places.set(words, [...(places.get(words) ?? []), at])
  }
  const sums = [...places].map(([words, own]) => {
    const variance = own.reduce((sum, row) => sum + own.reduce((part, column) => part + covariance[row * contributions.length + column], 0), 0)
    return { words, contribution: own.reduce((sum, at) => sum + contributions[at], 0), error: Math.sqrt(Math.max(variance, 0)) }
  })
  return sums.sort((a, b) => Math.abs(b.contribution) - Math.abs(a.contribution))
}
