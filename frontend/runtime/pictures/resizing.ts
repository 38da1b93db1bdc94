/**
 * Pictures in another size, to the bit as Pillow has it: each new pixel is the sum of the old ones under a filter that grows
 * with the picture, in whole numbers of 22 bits behind the point; across first, then down, or where that is less work the
 * other way round, rounded in between.
 */
import type { Pixels } from './pixels'

export type Filter = 'bilinear' | 'box'
/** Left, top, right and bottom of the part that is resized, in pixels. */
export type Part = readonly [number, number, number, number]

const BITS = 22
const HALF = 1 << (BITS - 1)

const FILTERS: Record<Filter, { support: number; at: (x: number) => number }> = {
  bilinear: { support: 1, at: (x) => Math.max(0, 1 - Math.abs(x)) },
  box: { support: 0.5, at: (x) => (x > -0.5 && x <= 0.5 ? 1 : 0) },
}

/** Of each new pixel of a row (or column) which old ones it is a sum of, and by how much. */
interface Weights {
  starts: Int32Array
  counts: Int32Array
  /** `most` a new pixel. */
  weights: Int32Array
  most: number
}

/** `part` is of the whole picture where it is left out. */
export function resized(pixels: Pixels, width: number, height: number, filter: Filter, part?: Part): Pixels {
  // Pillow takes the part in single precision.
  const [left, top, right, bottom] = (part ?? [0, 0, pixels.width, pixels.height]).map(Math.fround)
  const isAsItIs = left === 0 && top === 0 && right === pixels.width && bottom === pixels.height
  if (isAsItIs && width === pixels.width && height === pixels.height) return pixels
  const across = weightsOf(pixels.width, left, right, width, filter)
  const down = weightsOf(pixels.height, top, bottom, height, filter)
  const goesAcross = width !== pixels.width || left !== 0 || right !== width
  const goesDown = height !== pixels.height || top !== 0 || bottom !== height
  if (!goesAcross) return goesDown ? resizedDown(pixels, down, height, 0) : pixels
  if (isDownFirst(pixels, width, height)) return resizedAcross(goesDown ? resizedDown(pixels, down, height, 0) : pixels, across, width, 0, height)
  // Of rows that no new one is made of nothing is worked out.
  const first = goesDown ? down.starts[0] : 0
  const last = goesDown ? down.starts[height - 1] + down.counts[height - 1] : pixels.height
  const narrow = resizedAcross(pixels, across, width, first, last)
  return goesDown ? resizedDown(narrow, down, height, first) : narrow
}

/** Where a picture loses more than twice as much of its height as of its width. */
function isDownFirst(pixels: Pixels, width: number, height: number): boolean {
  const [lostAcross, lostDown] = [pixels.width - width, pixels.height - height]
  return lostDown > 0 && lostDown > 2 * lostAcross
}

function weightsOf(size: number, from: number, to: number, newSize: number, name: Filter): Weights {
  const filter = FILTERS[name]
  const scale = Math.fround(to - from) / newSize
  const filterScale = Math.max(scale, 1)
  const support = filter.support * filterScale
  const most = Math.ceil(support) * 2 + 1
  const found: Weights = { starts: new Int32Array(newSize), counts: new Int32Array(newSize), weights: new Int32Array(most * newSize), most }
  const own = new Float64Array(most)
  for (let at = 0; at < newSize; at++) {
    const centre = from + (at + 0.5) * scale
    const start = Math.max(0, Math.trunc(centre - support + 0.5))
    const end = Math.min(size, Math.trunc(centre + support + 0.5))
    let total = 0
    for (let x = 0; x < end - start; x++) {
      own[x] = filter.at((x + start - centre + 0.5) * (1 / filterScale))
      total += own[x]
    }
    for (let x = 0; x < end - start; x++) {
      const weight = (total === 0 ? own[x] : own[x] / total) * (1 << BITS)
      found.weights[at * most + x] = Math.trunc(weight < 0 ? weight - 0.5 : weight + 0.5)
    }
    found.starts[at] = start
    found.counts[at] = end - start
  }
  return found
}

function resizedAcross({ width: oldWidth, channels, data }: Pixels, { starts, counts, weights, most }: Weights, width: number, first: number, last: number): Pixels {
  const out = new Uint8Array(width * (last - first) * channels)
  let to = 0
  for (let y = first; y < last; y++) {
    for (let x = 0; x < width; x++) {
      const from = (y * oldWidth + starts[x]) * channels
      for (let channel = 0; channel < channels; channel++, to++) {
        let sum = HALF
        for (let k = 0; k < counts[x]; k++) sum += data[from + k * channels + channel] * weights[x * most + k]
        out[to] = clipped(sum)
      }
    }
  }
  return { width, height: last - first, channels, data: out }
}

/** `first` is the row of the whole picture that stands first in `data`. */
function resizedDown({ width, channels, data }: Pixels, { starts, counts, weights, most }: Weights, height: number, first: number): Pixels {
  const step = width * channels
  const out = new Uint8Array(step * height)
  for (let y = 0; y < height; y++) {
    const from = (starts[y] - first) * step
    for (let at = 0; at < step; at++) {
      let sum = HALF
      for (let k = 0; k < counts[y]; k++) sum += data[from + k * step + at] * weights[y * most + k]
      out[y * step + at] = clipped(sum)
    }
  }
  return { width, height, channels, data: out }
}

function clipped(sum: number): number {
  const value = Math.floor(sum / (1 << BITS))
  return value < 0 ? 0 : value > 255 ? 255 : value
}
