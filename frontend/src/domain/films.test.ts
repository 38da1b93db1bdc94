import { describe, expect, it } from 'vitest'
import type { AnswerSetting, FilmFrame, FilmRow, FoundBox } from '../api/client'
import { clockText, heights, landing, momentWords, mostAtOnce, placeAt, rowsShown, stretches } from './films'

const SEEN = { leastScore: 0.5, off: new Set<string>() }
const ROWS: FilmRow[] = [
  { name: 'sound', label: 'sound', unit: '' },
  { name: 'cracked', label: 'cracked', unit: '' },
]
const BOXES = { kind: 'boxes', noun: 'tiles', noun_one: 'tile', labels: [{ name: 'sound', label: 'sound' }, { name: 'cracked', label: 'cracked' }] } as unknown as AnswerSetting
const CLASSES = { kind: 'class', classes: [{ name: 'sound', label: 'are sound', headline: 'Likely sound' }, { name: 'cracked', label: 'are cracked', headline: '' }] } as unknown as AnswerSetting

function box(name: string, score: number): FoundBox {
  return { name, label: name, score, of_100: Math.round(100 * score), x: 0, y: 0, width: 5, height: 5 }
}

function frame(at: number, more: Partial<FilmFrame>): FilmFrame {
  return { at, values: [], marks: [], texts: [], said: null, boxes: [], fault: '', ...more }
}

describe('a film’s answers in time', () => {
  it('are those of the frame that is shown, up to the next', () => {
    const frames = [0, 0.2, 0.4].map((at) => frame(at, {}))
    expect([-1, 0, 0.1, 0.2, 0.39, 5].map((seconds) => placeAt(frames, seconds))).toEqual([-1, 0, 0, 1, 2, 2])
    expect(placeAt([], 1)).toBe(-1)
  })

  it('are what a jump lands on, whichever way it goes', () => {
    const frames = [0, 0.5, 1].map((at) => frame(at, {}))
    expect(landing(frames, 0, 0.7, 9)).toBe(0.5)
    expect(landing(frames, 1, 0.7, 9)).toBe(0.5)
    // A small step on goes to the next one, not back to the same.
    expect(landing(frames, 0.5, 0.6, 9)).toBe(1)
    expect(landing(frames, 0.5, 0.4, 9)).toBe(0)
    expect(landing(frames, 1, 1.1, 9)).toBe(1.1)
    expect(landing(frames, 0, 9, 9)).toBe(9)
    expect(landing([], 0, 3, 9)).toBe(3)
  })

  it('say times as players do', () => {
    expect([0, 3.9, 75, 3725].map(clockText)).toEqual(['0:00', '0:03', '1:15', '1:02:05'])
  })

  it('count the boxes that are shown, and stack them against the most there are at a time', () => {
    const frames = [frame(0, { boxes: [box('sound', 0.9), box('sound', 0.6), box('cracked', 0.4)] }), frame(1, { boxes: [box('cracked', 0.8)] })]
    expect(mostAtOnce(ROWS, frames, SEEN)).toBe(2)
    expect(heights(BOXES, ROWS, frames, SEEN)).toEqual([
      [1, 0],
      [0, 0.5],
    ])
    expect(momentWords(BOXES, ROWS, frames[0]!, SEEN)).toBe('2 tiles: 2 sound')
    expect(momentWords(BOXES, ROWS, frames[0]!, { leastScore: 0.95, off: new Set() })).toBe('No tiles')
    expect(momentWords(BOXES, ROWS, frames[1]!, { leastScore: 0.5, off: new Set(['cracked']) })).toBe('No tiles')
  })

  it('say a class as the page says it, and whose number it is', () => {
    const one = frame(0, { said: 'sound', values: [0.917, 0.083], marks: [92, 8] })
    expect(momentWords(CLASSES, ROWS, one, SEEN)).toBe('Likely sound; the model puts it at 92 of 100')
    expect(momentWords(CLASSES, ROWS, frame(0, { said: 'cracked', values: [0, 1] }), SEEN)).toBe('are cracked')
  })

  it('never hide that a frame has no answer', () => {
    const fault = frame(1, { fault: 'The model failed for this frame.' })
    expect(momentWords(CLASSES, ROWS, fault, SEEN)).toBe('no answer: The model failed for this frame.')
    expect(heights(CLASSES, ROWS, [fault], SEEN)).toEqual([[0], [0]])
  })

  it('are told as stretches over which the same is said', () => {
    const said = ['sound', 'sound', 'cracked', 'sound'].map((name, at) => frame(at, { said: name, values: [0.5 + at / 10, 0.5 - at / 10], marks: [50 + 10 * at, 50 - 10 * at] }))
    expect(stretches(CLASSES, ROWS, said, SEEN)).toEqual([
      { from: 0, until: 2, words: 'Likely sound' },
      { from: 2, until: 3, words: 'are cracked' },
      { from: 3, until: null, words: 'Likely sound' },
    ])
  })

  it('show of many classes those that were ever likely, and say how many are left out', () => {
    const rows = Array.from({ length: 12 }, (_, at) => ({ name: `${at}`, label: `${at}`, unit: '' }))
    const all = rows.map((_, at) => [at % 2 ? 0.01 * at : 0.5 + at / 100, 0])
    expect(rowsShown(CLASSES, rows, all, 3)).toEqual({ places: [6, 8, 10], left: 9 })
    expect(rowsShown(CLASSES, ROWS, all, 3)).toEqual({ places: [0, 1], left: 0 })
  })
})
