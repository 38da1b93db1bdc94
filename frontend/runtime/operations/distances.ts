/** Likeness to rows that were learned: kernel machines, nearest neighbours, bell curves around classes. */
import { eachRow, float64s, type Arrays, type Block, type Settings } from '../blocks'
import { need } from '../errors'
import { pairwiseSum } from '../sums'
import { arrayOf, numberIn, type Operations } from './registry'

/** Of a row and the learned row that begins at `from` of all of them. */
type Pair = (own: Float64Array, rows: Float64Array, from: number) => number

function product(own: Float64Array, rows: Float64Array, from: number): number {
  let total = 0
  for (let at = 0; at < own.length; at++) total += own[at] * rows[from + at]
  return total
}

/** Differences first: the shorter way by products loses digits where rows are near. */
function squaredDistance(own: Float64Array, rows: Float64Array, from: number): number {
  let total = 0
  for (let at = 0; at < own.length; at++) {
    const apart = own[at] - rows[from + at]
    total += apart * apart
  }
  return total
}

function minkowski(power: number): Pair {
  if (power === 2) return (own, rows, from) => Math.sqrt(squaredDistance(own, rows, from))
  return (own, rows, from) => {
    let total = 0
    for (let at = 0; at < own.length; at++) {
      const apart = Math.abs(own[at] - rows[from + at])
      total = power === Infinity ? Math.max(total, apart) : total + apart ** power
    }
    return power === 1 || power === Infinity ? total : total ** (1 / power)
  }
}

function likeness(settings: Settings): Pair {
  const [gamma, shift, degree] = ['gamma', 'coef0', 'degree'].map((name) => numberIn(settings, name))
  switch (settings.kernel) {
    case 'rbf':
      return (own, rows, from) => Math.exp(-gamma * squaredDistance(own, rows, from))
    case 'poly':
      return (own, rows, from) => (gamma * product(own, rows, from) + shift) ** degree
    case 'sigmoid':
      return (own, rows, from) => Math.tanh(gamma * product(own, rows, from) + shift)
    default:
      return product
  }
}

/** What a pair function says of a row and each learned row. */
function ofEach(own: Float64Array, rows: Float64Array, pair: Pair, out: Float64Array): void {
  for (let at = 0; at < out.length; at++) out[at] = pair(own, rows, at * own.length)
}

function kernel([block]: Block[], arrays: Arrays, settings: Settings): Block {
  const rows = float64s(arrays.rows)
  const pair = likeness(settings)
  return eachRow(block, arrays.rows.shape[0], (own, out) => ofEach(own, rows, pair, out))
}

/** The places of the `n` least, in their order; of what is as far away the ones learned first count. */
function nearest(distances: Float64Array, n: number): number[] {
  const near: number[] = []
  for (let place = 0; place < distances.length; place++) {
    const own = distances[place]
    if (near.length === n && own >= distances[near[n - 1]]) continue
    let at = near.length < n ? near.length : n - 1
    for (; at > 0 && distances[near[at - 1]] > own; at--) near[at] = near[at - 1]
    near[at] = place
  }
  return near
}

function neighbours([block]: Block[], arrays: Arrays, settings: Settings): Block {
  const rows = float64s(arrays.rows)
  const values = float64s(arrays.values)
  const [nLearned, width] = arrays.values.shape
  const distance = minkowski(powerIn(settings))
  const distances = new Float64Array(nLearned)
  const n = numberIn(settings, 'n_neighbours')
  return eachRow(block, width, (own, out) => {
    ofEach(own, rows, distance, distances)
    const near = nearest(distances, n)
    const weights = Float64Array.from(near, (place) => (settings.weights === 'distance' ? 1 / distances[place] : 1))
    // A row that was learned itself outweighs all others.
    if (weights.includes(Infinity)) weights.forEach((weight, at) => (weights[at] = Number(weight === Infinity)))
    for (const [at, place] of near.entries()) {
      for (let to = 0; to < width; to++) out[to] += weights[at] * values[place * width + to]
    }
    const total = pairwiseSum(weights)
    for (let to = 0; to < width; to++) out[to] /= total
  })
}

/** JSON has no word for a number without end: it is written as text. */
function powerIn({ power }: Settings): number {
  return typeof power === 'number' ? power : power === 'Infinity' || power === null ? Infinity : NaN
}

function bells([block]: Block[], arrays: Arrays): Block {
  const [means, variances, priors] = ['means', 'variances', 'priors'].map((part) => float64s(arrays[part]))
  const [nClasses, width] = arrays.means.shape
  const constants = Array.from({ length: nClasses }, (_, at) => {
    return -0.5 * pairwiseSum(variances.slice(at * width, (at + 1) * width).map((variance) => Math.log(2 * Math.PI * variance)))
  })
  return eachRow(block, nClasses, (own, out) => {
    for (let at = 0; at < nClasses; at++) {
      const apart = own.map((value, column) => (value - means[at * width + column]) ** 2 / variances[at * width + column])
      out[at] = constants[at] - 0.5 * pairwiseSum(apart) + Math.log(priors[at])
    }
  })
}

function checkRows(widths: number[], arrays: Arrays, part: string): number[] {
  const { shape } = arrayOf(arrays, part)
  need(shape.length === 2 && widths.length === 1 && widths[0] === shape[1], `the learned ${part} do not fit the block`)
  return shape
}

export const DISTANCES: Operations = {
  kernel: {
    width: (widths, arrays, settings) => {
      const [nRows] = checkRows(widths, arrays, 'rows')
      need(['linear', 'poly', 'rbf', 'sigmoid'].includes(settings.kernel as string), 'no such kernel')
      likeness(settings)
      return nRows
    },
    run: kernel,
  },
  neighbours: {
    width: (widths, arrays, settings) => {
      const [nRows] = checkRows(widths, arrays, 'rows')
      const { shape } = arrayOf(arrays, 'values')
      need(shape.length === 2 && shape[0] === nRows, 'each learned row wants its values')
      const n = numberIn(settings, 'n_neighbours')
      need(n >= 1 && n <= nRows, 'more neighbours than learned rows')
      need(['uniform', 'distance'].includes(settings.weights as string) && powerIn(settings) > 0, 'no such weights or distance')
      return shape[1]
    },
    run: neighbours,
  },
  bells: {
    width: (widths, arrays) => {
      const [nClasses, width] = checkRows(widths, arrays, 'means')
      const variances = arrayOf(arrays, 'variances').shape
      const isWhole = variances.length === 2 && variances[0] === nClasses && variances[1] === width
      const priors = arrayOf(arrays, 'priors').shape
      need(isWhole && priors.length === 1 && priors[0] === nClasses, 'each class wants its spread and its share')
      return nClasses
    },
    run: bells,
  },
}
