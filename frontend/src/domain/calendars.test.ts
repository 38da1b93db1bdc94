import { expect, it } from 'vitest'
import { dateWords, isoOf, numberOfIso } from './calendars'

it.each([
  ['days', 20513],
  ['ordinal', 739676],
  ['spreadsheet', 46082],
  ['seconds', 1772323200],
  ['milliseconds', 1772323200e3],
  ['microseconds', 1772323200e6],
  ['nanoseconds', 1772323200e9],
] as const)('counts as %s do, there and back', (calendar, number) => {
  expect(numberOfIso('2026-03-01', calendar)).toBe(number)
  expect(isoOf(number, calendar)).toBe('2026-03-01')
  expect(dateWords(number, calendar)).toBe('1 Mar 2026')
})

it('leaves the time of day out, before 1970 too', () => {
  expect(isoOf(46082.75, 'spreadsheet')).toBe('2026-03-01')
  expect(isoOf(-0.5, 'days')).toBe('1969-12-31')
})

it.each(['2026-02-30', '2026-3-1', '1 March', '', '20513'])('takes no date out of “%s”', (text) => {
  expect(numberOfIso(text, 'days')).toBeNull()
})

it('stands for no date beyond the calendar', () => {
  expect(dateWords(1e12, 'days')).toBeNull()
})
