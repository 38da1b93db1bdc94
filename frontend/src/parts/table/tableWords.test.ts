import { describe, expect, it } from 'vitest'
import type { JobView } from '../../api/client'
import { cellText, durationText, plainText, progressText, shareDone, totalText } from './tableWords'

const RUNNING = { state: 'running', done: 0, answered: 0, total: null, total_is_estimate: false, seconds_left: null, place: 0, detail: '' } as unknown as JobView

describe('what is said of a table', () => {
  it('says times no finer than they are known', () => {
    expect([0.4, 40, 300, 8000].map(durationText)).toEqual(['a second', '40 seconds', '5 minutes', '2 hours'])
  })

  it('says an estimate as one, and no finer than it is', () => {
    expect(totalText({ ...RUNNING, total: 1_004_312, total_is_estimate: true })).toBe('about 1,000,000 rows')
    expect(totalText({ ...RUNNING, total: 1204 })).toBe('1,204 rows')
    expect(totalText({ ...RUNNING, total: 1 })).toBe('1 row')
  })

  it('says how far it is, and how long it takes', () => {
    expect(progressText(RUNNING)).toBe('Begun.')
    expect(progressText({ ...RUNNING, done: 500, total: 1000, seconds_left: 12 })).toBe('500 of 1,000 rows answered. About 12 seconds left.')
    expect(progressText({ ...RUNNING, state: 'waiting', place: 2 })).toBe('2 before yours. It begins by itself.')
  })

  it('never says that all are answered where some are not', () => {
    expect(progressText({ ...RUNNING, state: 'done', done: 10, answered: 10 })).toBe('All 10 rows are answered.')
    expect(progressText({ ...RUNNING, state: 'done', done: 10, answered: 8 })).toContain('8 of 10 rows are answered')
    expect(progressText({ ...RUNNING, state: 'done', done: 50, answered: 50, detail: 'The table has more than 50 rows.' })).toMatch(/^The table has more than 50 rows\./)
  })

  it('knows no share of what has no end yet, and never more than all', () => {
    expect(shareDone(RUNNING)).toBeNull()
    expect(shareDone({ ...RUNNING, done: 12, total: 10 })).toBe(1)
  })

  it('cuts numbers and long cells, and keeps a comma a comma', () => {
    expect(['0.123456789', '0,123456789', '12', 'x'.repeat(50)].map(cellText)).toEqual(['0.1235', '0,1235', '12', `${'x'.repeat(39)}…`])
  })

  it('puts names in quotation marks', () => {
    expect(plainText('There is no `wall_mm`.')).toBe('There is no “wall_mm”.')
  })
})
