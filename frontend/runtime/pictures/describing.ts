/**
 * A picture as a model sees it, in numbers that tell what is like it: `describe_picture` of `core/trust/likeness.py` once
 * more, but for the last digits of single precision.
 */
import type { Pixels } from './pixels'

const CELLS_ACROSS = 4
const STEPS = [1, 2, 4, 8]
/** Of brightness from 0 to 1: half of what eight bits can tell. */
const LEAST_TOLD = 0.5 / 255

interface Grey {
  width: number
  height: number
  data: Float64Array
}

export function described(seen: Pixels): Float32Array {
  const { width, height, channels, data } = seen
  const n = width * height
  const grey: Grey = { width, height, data: new Float64Array(n) }
  const sums = new Float64Array(channels)
  let colourful = 0
  for (let at = 0; at < n; at++) {
    let [low, high, sum] = [1, 0, 0]
    for (let channel = 0; channel < channels; channel++) {
      const value = Math.fround(data[at * channels + channel] / 255)
      sums[channel] += value
      sum += value
      low = Math.min(low, value)
      high = Math.max(high, value)
    }
    grey.data[at] = sum / channels
    colourful += high - low
  }
  const steep = STEPS.map((step) => logarithm(steepness(grey, step)))
  const whole = [...grey.data.keys()]
  const varied = logarithm(spreadOf(grey, whole))
  const flatter = STEPS.slice(1).map((_, at) => steep[at] - steep[at + 1])
  const numbers = [...sums.map((sum) => sum / n), colourful / n, varied, steep[0], ...flatter, varied - steep[steep.length - 1], logarithm(middleOff(grey.data)) - varied]
  const mean = meanOf(grey, whole)
  for (const rows of parted(height)) {
    for (const columns of parted(width)) {
      const cell = rows.flatMap((row) => columns.map((column) => row * width + column))
      numbers.push(meanOf(grey, cell) - mean, logarithm(spreadOf(grey, cell)))
    }
  }
  return Float32Array.from(numbers)
}

/** How much brightness differs on average between pixels so far apart, across and down. */
function steepness({ width, height, data }: Grey, step: number): number {
  const means: number[] = []
  for (const [columns, rows, apart] of [[width - step, height, step], [width, height - step, step * width]]) {
    if (columns <= 0 || rows <= 0) continue
    let sum = 0
    for (let y = 0; y < rows; y++) for (let x = 0; x < columns; x++) sum += Math.abs(data[y * width + x + apart] - data[y * width + x])
    means.push(sum / (columns * rows))
  }
  return means.length ? means.reduce((sum, one) => sum + one, 0) / means.length : 0
}

function middleOff(values: Float64Array): number {
  const middle = median(values)
  return median(values.map((value) => Math.abs(value - middle)))
}

function median(values: Float64Array): number {
  const sorted = values.slice().sort()
  const half = sorted.length / 2
  return sorted.length % 2 ? sorted[Math.floor(half)] : (sorted[half - 1] + sorted[half]) / 2
}

function meanOf({ data }: Grey, places: number[]): number {
  return places.reduce((sum, at) => sum + data[at], 0) / places.length
}

function spreadOf(grey: Grey, places: number[]): number {
  const mean = meanOf(grey, places)
  return Math.sqrt(places.reduce((sum, at) => sum + (grey.data[at] - mean) ** 2, 0) / places.length)
}

/** The places from 0 on in a few nearly equal runs, the longer ones first. */
function parted(n: number): number[][] {
  const nParts = Math.min(CELLS_ACROSS, n)
  const parts: number[][] = []
  let start = 0
  for (let part = 0; part < nParts; part++) {
    const size = Math.floor(n / nParts) + (part < n % nParts ? 1 : 0)
    parts.push(Array.from({ length: size }, (_, at) => start + at))
    start += size
  }
  return parts
}

/** Of a spread: twice as varied is as far as half as varied. */
function logarithm(spread: number): number {
  return Math.log2(spread + LEAST_TOLD)
}
