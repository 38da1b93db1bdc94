import { expect, test } from 'vitest'
import { piecesOf, strengthOf, type Word } from './words'

const word = (name: string, places: [number, number][], contribution: number): Word => ({
  word: name,
  places,
  contribution,
  error: 0,
  left_out: contribution,
})

test('words that matter stand apart, the rest of the text stays as it is', () => {
  const bang = word('bang', [[0, 4], [12, 16]], 0.3)
  const pieces = piecesOf('bang at 200 bang!', [bang, word('at', [[5, 7]], 0.001)])
  expect(pieces.map((piece) => piece.text)).toEqual(['bang', ' at 200 ', 'bang', '!'])
  expect(pieces.map((piece) => piece.word?.word ?? null)).toEqual(['bang', null, 'bang', null])
})

test('places count characters, also where one takes two units', () => {
  const pieces = piecesOf('🔥🔥 bang', [word('bang', [[3, 7]], 0.3)])
  expect(pieces.map((piece) => piece.text)).toEqual(['🔥🔥 ', 'bang'])
})

test('places of a text that has been edited since do no harm', () => {
  expect(piecesOf('ba', [word('bang', [[0, 4]], 0.3)])).toEqual([{ text: 'ba', word: null }])
})

test('the strongest word is marked the strongest', () => {
  const words = [word('a', [], 0.4), word('b', [], -0.2), word('c', [], 0.05)]
  expect(words.map((one) => strengthOf(one, words))).toEqual([3, 2, 1])
})
