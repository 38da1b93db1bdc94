import { expect, test } from 'vitest'
import { leastSeconds } from './pace'

/** Each call takes what comes next; one more than there are is an error. */
function taking(...seconds: number[]): () => Promise<number> {
  return () => (seconds.length > 0 ? Promise.resolve(seconds.shift() as number) : Promise.reject(new Error('asked once too often')))
}

test('a graph is not called slow for one call that waited', async () => {
  expect(await leastSeconds(taking(0.003), 0.9, 0.04)).toBe(0.003)
  expect(await leastSeconds(taking(0.9, 0.003), Infinity, 0.04)).toBe(0.003)
})

test('one that is quick enough is not asked, and a slow one not for long', async () => {
  expect(await leastSeconds(taking(), 0.01, 0.04)).toBe(0.01)
  expect(await leastSeconds(taking(2.5), 3, 0.04)).toBe(2.5)
  expect(await leastSeconds(taking(0.3, 0.2, 0.25), 0.4, 0.04)).toBe(0.2)
})
