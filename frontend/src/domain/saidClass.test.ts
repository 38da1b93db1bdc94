/** With a threshold the class that is said may not be the likeliest: its own share stands beside it. */
import { expect, test } from 'vitest'
import type { Answer, Page } from '../api/client'
import { answerText } from './answerText'

const shares = [
  { class: 'sound', probability: 0.66, of_100: 66, label: 'stay sound' },
  { class: 'cracks', probability: 0.34, of_100: 34, label: 'crack' },
]
const answer = { kind: 'class', class: 'cracks', headline: 'May well crack', probabilities: shares, possible: null, calibrated: false, unlike: false } as Answer
const page = { answer: { kind: 'class', classes: [{ name: 'cracks', label: 'crack' }, { name: 'sound', label: 'stay sound' }] } } as unknown as Page

test('a few words say the share of the class that is said', () => {
  expect(answerText(page, answer)).toBe('crack, 34 of 100')
})
