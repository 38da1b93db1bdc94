import { describe, expect, it } from 'vitest'
import type { AnswerSetting, Curve, PredictionAnswer } from '../api/client'
import { answerWords, curveAt, pushOf, scaleOf, strongest, whyOfFields } from './why'

const points = { factor: 100, unit: 'points', decimals: 0 }
const steps: Curve = { field: 'wall', of: 'cracks', shape: 'steps', x: [3, 5, 8], y: [0.1, 0.2, 0.6], thinned: false }

describe('a push', () => {
  it('says direction and size in the answer’s unit', () => {
    expect(pushOf(0.213, points).words).toBe('adds 21 points')
    expect(pushOf(-0.01, points)).toEqual({ direction: 'down', words: 'takes off 1 point', short: '−1' })
    expect(pushOf(6.44, { factor: 1, unit: 'kWh', decimals: 1 }).words).toBe('adds 6.4 kWh')
  })
  it('that rounds to nothing hardly matters, and a sampled one is about so much', () => {
    expect(pushOf(0.0049, points)).toEqual({ direction: 'none', words: 'hardly matters', short: '0' })
    expect(pushOf(0.08, points, true).words).toBe('adds about 8 points')
  })
})

describe('a curve', () => {
  it('of steps holds from one place up to the next, and beyond its ends', () => {
    expect([2, 3, 4.9, 5, 7.9, 8, 99].map((value) => curveAt(steps, value))).toEqual([0.1, 0.1, 0.1, 0.2, 0.2, 0.6, 0.6])
  })
  it('of a line runs straight between its points', () => {
    const line: Curve = { ...steps, shape: 'line', x: [0, 10], y: [1, 2] }
    expect([-1, 0, 5, 10, 11].map((value) => curveAt(line, value))).toEqual([1, 1, 1.5, 2, 2])
  })
  it('of options has a value for each, and none for what it does not know', () => {
    const options: Curve = { ...steps, shape: 'options', x: [false, true, null], y: [0.1, 0.2, 0.3] }
    expect([true, false, null, 'wood'].map((value) => curveAt(options, value))).toEqual([0.2, 0.1, 0.3, null])
  })
})

describe('what ribbons share', () => {
  const setting: AnswerSetting = { kind: 'number', name: 'Energy', unit: 'kWh', decimals: 1, low: 0, high: 100 }
  const answer = (y: number[]) => ({ curves: [{ ...steps, y }], explanation: null }) as unknown as PredictionAnswer
  it('starts at nothing where that leaves room, and close by where it does not', () => {
    expect(whyOfFields(setting, answer([20, 40, 50])).get('wall')?.domain).toEqual([0, 50])
    const [low, high] = whyOfFields(setting, answer([1200, 1210, 1220])).get('wall')?.domain ?? [0, 0]
    expect(low).toBeGreaterThan(1190)
    expect(high).toBeLessThan(1230)
  })
  it('is in points for a class and in the unit for a number', () => {
    expect(answerWords(0.724, points)).toBe('72 of 100')
    expect(answerWords(43.84, scaleOf(setting, 'Energy'))).toBe('43.8 kWh')
  })
})

it('keeps the strongest apart and adds up the rest', () => {
  const contributions = [0.4, -0.2, 0.05, -0.01].map((contribution, at) => ({ field: `f${at}`, value: at, contribution }))
  const explanation = { of: 'cracks', unit: 'probability', baseline: 0, method: '', contributions, error: 0, n_background: 1 }
  const { shown, rest, together } = strongest(explanation, 2)
  expect([shown.length, rest.length]).toEqual([2, 2])
  expect(together).toBeCloseTo(0.04)
})
