import { expect, test } from 'vitest'
import { retryAfterMs, retryDelayMs, toApiError } from './client'

test('how long to wait is said in seconds or as a date', () => {
  const now = Date.parse('Thu, 26 Nov 2026 10:00:00 GMT')
  expect(retryAfterMs('3', now)).toBe(3000)
  expect(retryAfterMs('Thu, 26 Nov 2026 10:00:07 GMT', now)).toBe(7000)
  expect(retryAfterMs('Thu, 26 Nov 2026 09:00:00 GMT', now)).toBe(0)
  expect(retryAfterMs('soon', now)).toBeNull()
  expect(retryAfterMs(null, now)).toBeNull()
})

test('tries are a second apart at least, further each time, and never sooner than asked', () => {
  expect([0, 1, 2, 3].map((tries) => retryDelayMs(0, tries))).toEqual([1000, 2000, 4000, 8000])
  expect(retryDelayMs(0, 30)).toBe(60_000)
  expect(retryDelayMs(90_000, 0)).toBe(90_000)
})

test('a model that failed on this case is not asked again, a gateway that fails is', () => {
  const own = { type: 'about:blank', title: 'No answer', status: 502, detail: 'The model failed.', errors: null, traceback: null }
  expect(toApiError(own, 502, null).retryAfterMs).toBeNull()
  expect(toApiError('<h1>Bad Gateway</h1>', 502, null).retryAfterMs).toBe(0)
  expect(toApiError(null, 500, null).retryAfterMs).toBeNull()
})
