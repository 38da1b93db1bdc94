import { expect, it } from 'vitest'
import { figuresOf } from './figuresOf'

const FIELDS = [
  { name: 'wall', label: 'Wall thickness' },
  { name: 'days', label: 'Days of drying' },
]

it('puts two shares beside each other', () => {
  const figures = figuresOf({ name: 'report', evidence: { cases: 200, right: 0.834, commonest_class: 0.5 } }, FIELDS)
  expect(figures?.lines.map(({ label, share, text }) => [label, share, text])).toEqual([
    ['the model', 0.834, '83'],
    ['who always says the commonest class', 0.5, '50'],
  ])
})

it('draws errors to the scale of the larger', () => {
  const figures = figuresOf({ name: 'report', evidence: { mean_square_error: 2.5, of_always_the_mean: 10 } }, FIELDS)
  expect(figures?.lines.map((line) => [line.share, line.text])).toEqual([
    [0.25, '2.5'],
    [1, '10'],
  ])
})

it('calls fields by their labels and says how many are left out', () => {
  const many = Object.fromEntries(Array.from({ length: 14 }, (_, at) => [`f${at}`, at / 20]))
  const figures = figuresOf({ name: 'leakage', evidence: { right_alone: { wall: 0.71, ...many } } }, FIELDS)
  expect(figures?.lines[0]).toEqual({ label: 'Wall thickness', share: 0.71, text: '71' })
  expect([figures?.lines.length, figures?.more]).toEqual([12, 3])
})

it('draws nothing where nothing moved, and no bar beyond the chart', () => {
  expect(figuresOf({ name: 'every-field', evidence: { moved_on_average: { wall: 0, days: 0 } } }, FIELDS)?.lines.map((line) => line.share)).toEqual([0, 0])
  expect(figuresOf({ name: 'calibration', evidence: { bins: [{ predicted: 0.25, happened: 0.3, cases: 1 }], of: 'cracks' } }, FIELDS)?.lines).toEqual([{ label: 'it said 25 of 100 (1 case)', share: 0.3, text: '30' }])
})

it('has no figures where the sentence says it all', () => {
  expect(figuresOf({ name: 'size', evidence: { bytes: 5 } }, FIELDS)).toBeNull()
  expect(figuresOf({ name: 'class-order', evidence: {} }, FIELDS)).toBeNull()
})
