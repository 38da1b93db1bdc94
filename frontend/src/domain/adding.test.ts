import { expect, test } from 'vitest'
import { addUp } from './adding'

const POINTS = { factor: 100, unit: 'points', decimals: 0 }

/** A stream of numbers between 0 and 1 that is the same each time. */
function numbers(seed: number): () => number {
  let state = seed
  return () => (state = (state * 48271) % 2147483647) / 2147483647
}

test('parts shown lead from the start shown to the end shown, and none is off by a step', () => {
  const next = numbers(7)
  for (let round = 0; round < 500; round += 1) {
    const scale = { ...POINTS, ...(round % 2 ? { factor: 1, unit: 'kWh', decimals: round % 3 } : {}) }
    const values = Array.from({ length: 1 + Math.floor(next() * 12) }, () => (next() - 0.5) * 0.4)
    const start = next()
    const end = values.reduce((sum, value) => sum + value, start)
    const shown = addUp(values, start, end, scale)
    const step = 1 / (scale.factor * 10 ** scale.decimals)
    const total = shown.parts.reduce((sum, value) => sum + value, shown.start)
    expect(Math.abs(total - shown.end)).toBeLessThan(1e-9)
    expect(Math.abs(shown.start - start)).toBeLessThanOrEqual(step / 2 + 1e-12)
    const most = values.length === 1 ? 1 : 1.0000001
    values.forEach((value, at) => expect(Math.abs((shown.parts[at] ?? 0) - value)).toBeLessThanOrEqual(step * most))
  }
})

test('the end is what the server says of the answer, not a rounding of our own', () => {
  const own = { value: 0.8749, text: '88' }
  const shown = addUp([0.5, 0.2249], 0.15, 0.8749, { ...POINTS, own })
  expect(shown.end).toBeCloseTo(0.88)
  expect(shown.parts.reduce((sum, value) => sum + value, shown.start)).toBeCloseTo(0.88)
})

test('a field that does nothing is not given a step that another can take', () => {
  const shown = addUp([0, 0.104, 0.104, 0], 0.104, 0.312, POINTS)
  expect(shown.parts[0]).toBe(0)
  expect(shown.parts[3]).toBe(0)
})

test('a number’s own text may have grouped thousands', () => {
  const own = { value: 1240.04, text: '1\u202f240.0' }
  expect(addUp([240.04], 1000, 1240.04, { factor: 1, unit: 'kWh', decimals: 1, own }).end).toBe(1240)
})
