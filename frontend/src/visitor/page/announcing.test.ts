/** What a screen reader is told when the answer changes. */
import { expect, test } from 'vitest'
import type { Answer } from '../../api/client'
import type { AnswerState } from '../case/answerLine'
import { announcement } from './announcing'

test('with a threshold the share of the class that is said is told, not the likeliest', () => {
  const probabilities = [
    { class: 'sound', probability: 0.66, of_100: 66, label: 'stay sound' },
    { class: 'cracks', probability: 0.34, of_100: 34, label: 'crack' },
  ]
  const answer = { kind: 'class', class: 'cracks', headline: 'May well crack', probabilities, possible: null, calibrated: false, unlike: false } as Answer
  const state = { status: 'answered', isStale: false, delay: '', answer: { answer, notes: [] } } as unknown as AnswerState
  expect(announcement(null, state)).toBe('May well crack: 34 of 100')
})
