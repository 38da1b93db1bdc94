/** Number by number, and row by row. */
import { eachNumber, eachRow, emptyBlock, float64s, type Arrays, type Block } from '../blocks'
import { need } from '../errors'
import { pairwiseSum } from '../sums'
import { arrayOf, sameWidth, vectorWidth, type Operation, type Operations } from './registry'

/** What counts as zero where zeros stand for missing values. */
const TINY = 1e-35

/** With one number a column. Kept apart, not folded into one scale and shift: results must have the original's digits. */
export function withVector(compute: (value: number, own: number) => number): Operation {
  return {
    width: vectorWidth,
    run: ([block], arrays) => {
      const vector = float64s(arrays.vector)
      return eachNumber(block, (value, column) => compute(value, vector[column]))
    },
  }
}

function number(compute: (value: number) => number): Operation {
  return { width: sameWidth, run: ([block]) => eachNumber(block, compute) }
}

function row(compute: (row: Float64Array, out: Float64Array) => void): Operation {
  return { width: sameWidth, run: ([block]) => eachRow(block, block.width, compute) }
}

/** The row divided by what `length` says of it; by 1 where that is 0. */
function share(length: (row: Float64Array) => number): Operation {
  return row((own, out) => {
    const total = length(own)
    out.set(own.map((value) => value / (total === 0 ? 1 : total)))
  })
}

function sigmoid(value: number): number {
  // Split by sign so that neither side overflows.
  const small = Math.exp(-Math.abs(value))
  return value >= 0 ? 1 / (1 + small) : small / (1 + small)
}

function softmax(own: Float64Array, out: Float64Array): void {
  const most = largestOf(own)
  for (let at = 0; at < own.length; at++) out[at] = Math.exp(own[at] - most)
  const total = pairwiseSum(out)
  for (let at = 0; at < own.length; at++) out[at] /= total
}

/** The largest; NaN where one is. */
function largestOf(own: Float64Array): number {
  return own.reduce((most, value) => Math.max(most, value), -Infinity)
}

/** Where the largest stands, the first of several; NaN counts as the largest. */
export function placeOfLargest(own: Float64Array): number {
  let place = 0
  for (let at = 0; at < own.length; at++) {
    if (Number.isNaN(own[at])) return at
    if (own[at] > own[place]) place = at
  }
  return place
}

/** To the nearest whole number, halves to the even one. */
function rint(value: number): number {
  if (!Number.isFinite(value) || Math.abs(value) >= 2 ** 52) return value
  const below = Math.floor(value)
  const over = value - below
  const whole = over < 0.5 || (over === 0.5 && below % 2 === 0) ? below : below + 1
  // Minus nothing stays that.
  return whole === 0 && (value < 0 || Object.is(value, -0)) ? -0 : whole
}

function sum(blocks: Block[], arrays: Arrays): Block {
  const weights = float64s(arrays.weights)
  const [{ rows, width }] = blocks
  const out = emptyBlock(rows, width)
  for (const [at, { data }] of blocks.entries()) {
    for (let place = 0; place < data.length; place++) out.data[place] += weights[at] * data[place]
  }
  return out
}

function linear([block]: Block[], arrays: Arrays): Block {
  const weights = float64s(arrays.weights)
  const offset = float64s(arrays.offset)
  const width = offset.length
  return eachRow(block, width, (own, out) => {
    for (let at = 0; at < own.length; at++) {
      const value = own[at]
      for (let to = 0; to < width; to++) out[to] += value * weights[at * width + to]
    }
    for (let to = 0; to < width; to++) out[to] += offset[to]
  })
}

export const ARITHMETIC: Operations = {
  add: withVector((value, own) => value + own),
  subtract: withVector((value, own) => value - own),
  multiply: withVector((value, own) => value * own),
  divide: withVector((value, own) => value / own),
  at_least: withVector((value, own) => Math.max(value, own)),
  at_most: withVector((value, own) => Math.min(value, own)),
  power: withVector((value, own) => power(value, own)),
  above: withVector((value, own) => (value > own ? 1 : 0)),
  zero_as_missing: withVector((value, own) => (own > 0 && Math.abs(value) <= TINY ? NaN : value)),
  fill: withVector((value, own) => (Number.isNaN(value) ? own : value)),
  float32: number(Math.fround),
  is_missing: number((value) => (Number.isNaN(value) ? 1 : 0)),
  exp: number(Math.exp),
  log1p: number(Math.log1p),
  expm1: number(Math.expm1),
  log: number(Math.log),
  log2: number(Math.log2),
  log10: number(Math.log10),
  sqrt: number(Math.sqrt),
  cbrt: number(Math.cbrt),
  square: number((value) => value * value),
  absolute: number(Math.abs),
  negative: number((value) => -value),
  reciprocal: number((value) => 1 / value),
  sin: number(Math.sin),
  cos: number(Math.cos),
  tan: number(Math.tan),
  tanh: number(Math.tanh),
  arctan: number(Math.atan),
  floor: number(Math.floor),
  ceil: number(Math.ceil),
  rint: number(rint),
  sign: number(Math.sign),
  signed_square: number((value) => Math.sign(value) * (value * value)),
  log_counts: number((value) => (value > 0 ? Math.log(value) + 1 : 0)),
  sigmoid: number(sigmoid),
  softmax: row(softmax),
  share: row((own, out) => {
    const total = pairwiseSum(own)
    out.set(own.map((value) => value / total))
  }),
  share_or_even: row((own, out) => {
    const total = pairwiseSum(own)
    out.set(own.map((value) => (total === 0 ? 1 / own.length : value / total)))
  }),
  share_l1: share((own) => pairwiseSum(own.map(Math.abs))),
  share_l2: share((own) => Math.sqrt(pairwiseSum(own.map((value) => value * value)))),
  share_max: share((own) => largestOf(own.map(Math.abs))),
  largest: row((own, out) => {
    out[placeOfLargest(own)] = 1
  }),
  sum: {
    width: (widths, arrays) => {
      const { shape } = arrayOf(arrays, 'weights')
      need(new Set(widths).size === 1 && shape.length === 1 && shape[0] === widths.length, 'blocks of one width and a weight each')
      return widths[0]
    },
    run: sum,
  },
  linear: {
    width: (widths, arrays) => {
      const [weights, offset] = [arrayOf(arrays, 'weights').shape, arrayOf(arrays, 'offset').shape]
      need(widths.length === 1 && weights.length === 2 && weights[0] === widths[0], 'the weights do not fit the block')
      need(offset.length === 1 && offset[0] === weights[1], 'the offset does not fit the weights')
      return weights[1]
    },
    run: linear,
  },
}

/** As C has it: 1 to any power is 1, also to one that is not known. */
function power(value: number, own: number): number {
  return value === 1 || (value === -1 && Math.abs(own) === Infinity) ? 1 : value ** own
}

