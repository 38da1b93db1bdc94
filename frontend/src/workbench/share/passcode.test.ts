import { expect, test } from 'vitest'
import { passcodeHint } from './passcode'

test.each([
  ['', 'Three words are easy to say and hard to guess.'],
  ['glaz', '2 more to go.'],
  ['123456', 'Easy to guess. Add a word or two.'],
  ['aaaaaaaa', 'Easy to guess. Add a word or two.'],
  ['password1', 'Easy to guess. Add a word or two.'],
  ['tiles9', 'Fair: it would take years to guess.'],
  ['kiln salt umber', 'Hard to guess.'],
])('of “%s” is said: %s', (passcode, hint) => {
  expect(passcodeHint(passcode)).toBe(hint)
})
