/** How hard a passcode is to guess, in a few words. A hint, not a rule. */

export const MIN_PASSCODE = 6
/** Guesses a year that the server lets all addresses together make: two a second. */
const GUESSES_A_YEAR = 2 * 365 * 24 * 3600
const FAMILIAR = /^(?:\d{6,8}|(.)\1*|password\d*|qwert.*|abc.*|letmein\d*|plain ?window)$/i

/** What to say of a passcode while it is typed; empty while there is nothing to say. */
export function passcodeHint(passcode: string): string {
  if (passcode.length === 0) return 'Three words are easy to say and hard to guess.'
  if (passcode.length < MIN_PASSCODE) return `${MIN_PASSCODE - passcode.length} more to go.`
  if (FAMILIAR.test(passcode) || possibilities(passcode) < GUESSES_A_YEAR) return 'Easy to guess. Add a word or two.'
  return possibilities(passcode) < GUESSES_A_YEAR * 1e6 ? 'Fair: it would take years to guess.' : 'Hard to guess.'
}

/** How many passcodes there are of this length and these kinds of characters. */
function possibilities(passcode: string): number {
  const kinds = [/[a-z]/, /[A-Z]/, /\d/, /[^a-zA-Z\d]/]
  const sizes = [26, 26, 10, 30]
  const letters = sizes.reduce((sum, size, at) => sum + (kinds[at]!.test(passcode) ? size : 0), 0)
  return letters ** new Set(passcode).size
}
