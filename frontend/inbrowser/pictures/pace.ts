/** How long a graph takes, by a clock that goes on while others work: one slow call is no evidence of a slow graph. As on the server. */

/** It is timed up to so many times, within so many seconds. */
const MOST_TIMINGS = 3
const MOST_SECONDS = 2

/**
 * The least of what a few calls took, in seconds.
 *
 * @param ask asks once, and gives what that took
 * @param last what it took last; Infinity before the first
 * @param quick what takes no longer is not asked again
 */
export async function leastSeconds(ask: () => Promise<number>, last: number, quick: number): Promise<number> {
  let [least, spent] = [last, 0]
  for (let tries = 0; tries < MOST_TIMINGS && spent < MOST_SECONDS && least > quick; tries += 1) {
    const took = await ask()
    least = Math.min(least, took)
    spent += took
  }
  return least
}
