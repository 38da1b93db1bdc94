/** Classes against each other: votes of pairs, their probabilities, the median of several opinions. */
import { eachRow, float64s, type Arrays, type Block, type Settings } from '../blocks'
import { need } from '../errors'
import { placeOfLargest } from './arithmetic'
import { arrayOf, numberIn, type Operation, type Operations } from './registry'

/** Each pair's probability is kept this far from 0 and 1, and rounds end when no class is off by more than this. */
const PAIR_BOUND = 1e-7
const PAIR_ERROR = 0.005
const PAIR_ROUNDS = 100

function twoOf(compute: (value: number) => number): Operation {
  return {
    width: (widths) => {
      need(widths.length === 1 && widths[0] === 1, 'one column is wanted')
      return 2
    },
    run: ([block]) =>
      eachRow(block, 2, ([value], out) => {
        out[1] = compute(value)
        out[0] = 1 - out[1]
      }),
  }
}

function pairsOf(nClasses: number): [number, number][] {
  const pairs: [number, number][] = []
  for (let i = 0; i < nClasses; i++) {
    for (let j = i + 1; j < nClasses; j++) pairs.push([i, j])
  }
  return pairs
}

function pairVotes([block]: Block[], _: Arrays, settings: Settings): Block {
  const nClasses = numberIn(settings, 'n_classes')
  const pairs = pairsOf(nClasses)
  return eachRow(block, nClasses, (own, out) => {
    const votes = new Float64Array(nClasses)
    for (const [at, [i, j]] of pairs.entries()) votes[own[at] > 0 ? i : j] += 1
    out[placeOfLargest(votes)] = 1
  })
}

function pairScores([block]: Block[], _: Arrays, settings: Settings): Block {
  const nClasses = numberIn(settings, 'n_classes')
  const pairs = pairsOf(nClasses)
  return eachRow(block, nClasses, (own, out) => {
    const confidence = new Float64Array(nClasses)
    for (const [at, [i, j]] of pairs.entries()) {
      confidence[i] += own[at]
      confidence[j] -= own[at]
      // Here a decision of exactly nothing is for the first class.
      out[own[at] < 0 ? j : i] += 1
    }
    for (let at = 0; at < nClasses; at++) out[at] += confidence[at] / (3 * (Math.abs(confidence[at]) + 1))
  })
}

/** By the second method of Wu, Lin and Weng, "Probability Estimates for Multi-class Classification", JMLR 5, 2004. */
function pairProbabilities([block]: Block[], arrays: Arrays, settings: Settings): Block {
  const nClasses = numberIn(settings, 'n_classes')
  const [slope, shift] = [float64s(arrays.slope), float64s(arrays.shift)]
  const pairs = pairsOf(nClasses)
  return eachRow(block, nClasses, (own, out) => {
    const r = new Float64Array(nClasses * nClasses)
    for (const [at, [i, j]] of pairs.entries()) {
      const exponent = own[at] * slope[at] + shift[at]
      const small = Math.exp(-Math.abs(exponent))
      const first = Math.min(Math.max(exponent >= 0 ? small / (1 + small) : 1 / (1 + small), PAIR_BOUND), 1 - PAIR_BOUND)
      r[i * nClasses + j] = first
      r[j * nClasses + i] = 1 - first
    }
    out.set(coupled(r, nClasses))
  })
}

function coupled(r: Float64Array, n: number): Float64Array {
  const q = new Float64Array(n * n)
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) {
      if (i !== j) q[i * n + j] = -r[j * n + i] * r[i * n + j]
      else for (let t = 0; t < n; t++) q[i * n + i] += r[t * n + i] ** 2
    }
  }
  let p = new Float64Array(n).fill(1 / n)
  for (let round = 0; round < Math.max(PAIR_ROUNDS, n); round++) {
    const qp = p.map((_, t) => p.reduce((sum, own, j) => sum + q[t * n + j] * own, 0))
    const whole = p.reduce((sum, own, t) => sum + own * qp[t], 0)
    if (!qp.some((own) => Math.abs(own - whole) >= PAIR_ERROR / n)) break
    p = couplingRound(q, p, qp, whole)
  }
  return p
}

/** Each class in turn is moved to where its own error is nothing. */
function couplingRound(q: Float64Array, before: Float64Array, qpBefore: Float64Array, whole: number): Float64Array<ArrayBuffer> {
  const n = before.length
  const [p, qp] = [Float64Array.from(before), Float64Array.from(qpBefore)]
  for (let t = 0; t < n; t++) {
    const own = q[t * n + t]
    const step = (whole - qp[t]) / own
    p[t] += step
    whole = (whole + step * (step * own + 2 * qp[t])) / (1 + step) / (1 + step)
    for (let j = 0; j < n; j++) {
      qp[j] = (qp[j] + step * q[t * n + j]) / (1 + step)
      p[j] /= 1 + step
    }
  }
  return p
}

function weightedMedian([block]: Block[], arrays: Arrays): Block {
  const weights = float64s(arrays.weights)
  return eachRow(block, 1, (own, out) => {
    const order = Array.from(own.keys()).sort((a, b) => own[a] - own[b])
    const reached: number[] = []
    for (const place of order) reached.push((reached.at(-1) ?? 0) + weights[place])
    const half = 0.5 * (reached.at(-1) ?? 0)
    out[0] = own[order[reached.findIndex((sum) => sum >= half)]]
  })
}

const pairsWidth: Operation['width'] = (widths, _, settings) => {
  const nClasses = numberIn(settings, 'n_classes')
  need(nClasses >= 2 && widths.length === 1 && widths[0] === pairsOf(nClasses).length, 'each pair of classes wants a column')
  return nClasses
}

export const VOTES: Operations = {
  with_complement: twoOf((value) => value),
  sign_class: twoOf((value) => (value > 0 ? 1 : 0)),
  pair_votes: { width: pairsWidth, run: pairVotes },
  pair_scores: { width: pairsWidth, run: pairScores },
  pair_probabilities: {
    width: (widths, arrays, settings) => {
      const lists = [arrayOf(arrays, 'slope').shape, arrayOf(arrays, 'shift').shape]
      need(lists.every((shape) => shape.length === 1 && shape[0] === widths[0]), 'each pair wants a slope and a shift')
      return pairsWidth(widths, arrays, settings)
    },
    run: pairProbabilities,
  },
  weighted_median: {
    width: (widths, arrays) => {
      const { shape } = arrayOf(arrays, 'weights')
      need(widths.length === 1 && shape.length === 1 && shape[0] === widths[0], 'each opinion wants a weight')
      return 1
    },
    run: weightedMedian,
  },
}
