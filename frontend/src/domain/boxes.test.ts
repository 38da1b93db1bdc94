import { expect, test } from 'vitest'
import type { BoxesAnswer, BoxesSetting } from '../api/client'
import { countsByName, foundWords, kindsWords, placeInView, shownBoxes, whereWords } from './boxes'

const box = (name: string, score: number, x = 0, y = 0, width = 10, height = 10) => ({ name, label: name, score, of_100: Math.round(100 * score), x, y, width, height })
const ANSWER: BoxesAnswer = { kind: 'boxes', width: 200, height: 100, least_score: 0.1, boxes: [box('crack', 0.9), box('chip', 0.5), box('crack', 0.3)] }
const WHOLE = { left: 0, top: 0, width: 1, height: 1 }

test('what has the least score is shown, and what is switched off is not', () => {
  expect(shownBoxes(ANSWER, 0.3, new Set()).map((one) => [one.number, one.box.name])).toEqual([[1, 'crack'], [2, 'chip'], [3, 'crack']])
  expect(shownBoxes(ANSWER, 0.31, new Set(['crack'])).map((one) => one.box.name)).toEqual(['chip'])
  expect([...countsByName(ANSWER, 0.4)]).toEqual([['crack', 1], ['chip', 1]])
})

test('counts agree with their words', () => {
  expect(foundWords(0, 'flaws', 'flaw')).toBe('No flaws')
  expect(foundWords(1, 'flaws', 'flaw')).toBe('1 flaw')
  const setting = { kind: 'boxes', labels: [{ name: 'crack', label: 'crack', label_many: 'cracks' }], reading: { boxes: 'out' } } as BoxesSetting
  expect(kindsWords(ANSWER.boxes, setting)).toBe('2 cracks and 1 chip')
})

test('a box follows the picture as it is cut out and turned', () => {
  const one = box('crack', 0.9, 100, 0, 50, 50)
  expect(placeInView(one, ANSWER, WHOLE, 0)).toEqual({ left: 0.5, top: 0, width: 0.25, height: 0.5 })
  // Turned clockwise, what lies above lies on the right.
  expect(placeInView(one, ANSWER, WHOLE, 90)).toEqual({ left: 0.5, top: 0.5, width: 0.5, height: 0.25 })
  expect(placeInView(one, ANSWER, WHOLE, 180)).toEqual({ left: 0.25, top: 0.5, width: 0.25, height: 0.5 })
  expect(placeInView(one, ANSWER, WHOLE, 270)).toEqual({ left: 0, top: 0.25, width: 0.5, height: 0.25 })
  expect(placeInView(one, ANSWER, { left: 0.5, top: 0, width: 0.5, height: 1 }, 0)).toEqual({ left: 0, top: 0, width: 0.5, height: 0.5 })
  expect(placeInView(one, ANSWER, { left: 0, top: 0, width: 0.4, height: 1 }, 0)).toBeNull()
})

test('places are said in words', () => {
  expect(whereWords(box('crack', 1, 0, 0), ANSWER)).toBe('upper left')
  expect(whereWords(box('crack', 1, 95, 45), ANSWER)).toBe('in the middle')
  expect(whereWords(box('crack', 1, 180, 45), ANSWER)).toBe('right of the middle')
})
