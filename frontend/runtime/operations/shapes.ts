/** Columns bent into shape: products, bins, pieces of polynomials, quantiles, powers. */
import { eachNumber, eachRow, emptyBlock, float64s, rowOf, type Arrays, type Block, type Settings } from '../blocks'
import { need } from '../errors'
import { normalQuantile, normalShare } from '../normal'
import { withVector } from './arithmetic'
import { arrayOf, isAscending, oneColumn, sameWidth, type Operations } from './registry'

/** As close to a bound as this counts as on it, and the bell curve ends there. */
const BOUND = 1e-7
const EPSILON = Number.EPSILON

function products([block]: Block[], arrays: Arrays): Block {
  const [width, nColumns] = arrays.powers.shape
  const powers = Array.from(arrays.powers.data as ArrayLike<number | bigint>, Number)
  return eachRow(block, width, (own, out) => {
    for (let at = 0; at < width; at++) {
      out[at] = 1
      for (let column = 0; column < nColumns; column++) {
        for (let times = powers[at * nColumns + column]; times > 0; times--) out[at] *= own[column]
      }
    }
  })
}

/** How many of ascending numbers are at most `value`; all of them for what is no number, as sorting puts it last. */
function reached(ascending: Float64Array, value: number): number {
  let [low, high] = [0, ascending.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (value < ascending[middle]) high = middle
    else low = middle + 1
  }
  return low
}

function pieces([block]: Block[], arrays: Arrays, settings: Settings): Block {
  const breaks = float64s(arrays.breaks)
  const coefficients = float64s(arrays.coefficients)
  const [, nPowers, width] = arrays.coefficients.shape
  const start = Number(settings.start ?? 0)
  const period = Number(settings.period ?? 0)
  return eachRow(block, width, ([value], out) => {
    if (Number.isNaN(value)) return
    const moved = period ? start + modulo(value - start, period) : value
    const piece = Math.min(Math.max(reached(breaks, moved) - 1, 0), breaks.length - 1)
    const offset = moved - breaks[piece]
    const own = coefficients.subarray(piece * nPowers * width, (piece + 1) * nPowers * width)
    for (let at = 0; at < width; at++) {
      out[at] = own[at]
      for (let power = 1; power < nPowers; power++) out[at] = out[at] * offset + own[power * width + at]
    }
  })
}

/** What is left of a division whose whole part is rounded down. */
function modulo(value: number, by: number): number {
  const left = value % by
  if (left === 0) return by < 0 ? -0 : 0
  return left < 0 !== by < 0 ? left + by : left
}

/** Straight lines between points, level beyond the ends; of points at one place the last counts. */
function interpolate(value: number, x: Float64Array, y: Float64Array): number {
  if (Number.isNaN(value)) return NaN
  const n = x.length
  const at = reached(x, value) - 1
  if (at < 0) return y[0]
  if (at >= n - 1 || x[at] === value) return y[Math.min(at, n - 1)]
  const slope = (y[at + 1] - y[at]) / (x[at + 1] - x[at])
  const found = slope * (value - x[at]) + y[at]
  if (!Number.isNaN(found)) return found
  const back = slope * (value - x[at + 1]) + y[at + 1]
  return Number.isNaN(back) && y[at] === y[at + 1] ? y[at] : back
}

function quantiles([block]: Block[], arrays: Arrays, settings: Settings): Block {
  const known = float64s(arrays.quantiles)
  const references = float64s(arrays.references)
  const [mirrored, mirroredReferences] = [known, references].map((list) => list.slice().reverse().map((one) => -one))
  const isNormal = settings.distribution === 'normal'
  const [first, last] = [known[0], known[known.length - 1]]
  const [low, high] = [normalQuantile(BOUND - EPSILON), normalQuantile(1 - (BOUND - EPSILON))]
  return eachNumber(block, (value) => {
    if (Number.isNaN(value)) return NaN
    // From below and from above, and the middle of the two: quantiles may repeat.
    let rank = 0.5 * (interpolate(value, known, references) - interpolate(-value, mirrored, mirroredReferences))
    if (isNormal ? value + BOUND > last : value === last) rank = 1
    if (isNormal ? value - BOUND < first : value === first) rank = 0
    return isNormal ? Math.min(Math.max(normalQuantile(rank), low), high) : rank
  })
}

function yeoJohnson(value: number, power: number): number {
  if (Number.isNaN(value)) return NaN
  if (value >= 0) {
    const grown = Math.log1p(value)
    return Math.abs(power) >= EPSILON ? Math.expm1(power * grown) / power : grown
  }
  const shrunk = Math.log1p(-value)
  const rest = 2 - power
  return Math.abs(rest) > EPSILON ? -Math.expm1(rest * shrunk) / rest : -shrunk
}

function unYeoJohnson(value: number, power: number): number {
  if (value >= 0) return Math.abs(power) < EPSILON ? Math.expm1(value) : (value * power + 1) ** (1 / power) - 1
  const rest = 2 - power
  return Math.abs(rest) > EPSILON ? 1 - (-rest * value + 1) ** (1 / rest) : -Math.expm1(-value)
}

function boxCox(value: number, power: number): number {
  const logarithm = Math.log(value)
  return power === 0 ? logarithm : Math.expm1(power * logarithm) / power
}

function unBoxCox(value: number, power: number): number {
  return power === 0 ? Math.exp(value) : Math.exp(Math.log1p(value * power) / power)
}

function bins([block]: Block[], arrays: Arrays): Block {
  const edges = float64s(arrays.edges)
  const out = emptyBlock(block.rows, 1)
  for (let row = 0; row < block.rows; row++) out.data[row] = reached(edges, rowOf(block, row)[0])
  return out
}

function isList(arrays: Arrays, part: string): boolean {
  return arrayOf(arrays, part).shape.length === 1
}

export const SHAPES: Operations = {
  products: {
    width: (widths, arrays) => {
      const { shape, type, data } = arrayOf(arrays, 'powers')
      need(shape.length === 2 && shape[1] === widths[0], 'the powers do not fit the block')
      const powers = Array.from(data as ArrayLike<number | bigint>, Number)
      need(/^u?int/.test(type) && powers.every((power) => power >= 0 && power < 100), 'powers are small whole numbers')
      return shape[0]
    },
    run: products,
  },
  bins: {
    width: (widths, arrays, settings) => {
      need(isList(arrays, 'edges') && isAscending(float64s(arrays.edges)), 'edges must ascend')
      return oneColumn(widths, arrays, settings)
    },
    run: bins,
  },
  pieces: {
    width: (widths, arrays) => {
      const { shape } = arrayOf(arrays, 'coefficients')
      need(widths.length === 1 && widths[0] === 1 && shape.length === 3, 'one column and a table of coefficients are wanted')
      need(isList(arrays, 'breaks') && isAscending(float64s(arrays.breaks)), 'breaks must ascend')
      need(shape[0] > 0 && shape[0] === arrays.breaks.shape[0], 'each break starts one piece')
      return shape[2]
    },
    run: pieces,
  },
  quantiles: {
    width: (widths, arrays, settings) => {
      need(isList(arrays, 'quantiles') && isList(arrays, 'references'), 'quantiles do not fit')
      need(arrays.quantiles.shape[0] > 0 && arrays.quantiles.shape[0] === arrays.references.shape[0], 'quantiles do not fit')
      need(settings.distribution === 'uniform' || settings.distribution === 'normal', 'no such distribution')
      return oneColumn(widths, arrays, settings)
    },
    run: quantiles,
  },
  interpolated: {
    width: (widths, arrays, settings) => {
      need(isList(arrays, 'x') && isList(arrays, 'y') && arrays.x.shape[0] === arrays.y.shape[0], 'as many x as y are wanted')
      need(arrays.x.shape[0] > 0 && isAscending(float64s(arrays.x)), 'x must ascend')
      return oneColumn(widths, arrays, settings)
    },
    run: ([block], arrays) => {
      const [x, y] = [float64s(arrays.x), float64s(arrays.y)]
      return eachNumber(block, (value) => interpolate(value, x, y))
    },
  },
  yeo_johnson: withVector(yeoJohnson),
  un_yeo_johnson: withVector(unYeoJohnson),
  box_cox: withVector(boxCox),
  un_box_cox: withVector(unBoxCox),
  normal_share: { width: sameWidth, run: ([block]) => eachNumber(block, normalShare) },
}
