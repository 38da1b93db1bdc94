import { expect, it } from 'vitest'
import { answersWords, takenWords } from './differenceWords'

it('says how both do on cases whose outcome is known', () => {
  const answers = { cases: 200, same: 190, changed: 10, better: 7, worse: 3, right: [161, 165] as [number, number] }
  expect(answersWords(answers)).toBe('Of 200 cases 190 are answered as before, 10 otherwise, 7 better and 3 worse. Right for 161 of them before, for 165 now.')
  expect(answersWords({ cases: 9, same: 0, changed: 9, mean_absolute_error: [1.23456, 0.5] })).toBe('Of 9 cases 0 are answered as before, 9 otherwise. Off by 1.23 in the mean before, by 0.5 now.')
})

it.each([
  ['pictures', 'no known pictures that both'],
  ['features', 'no rows here have all the features'],
  ['answer', 'they answer with something else'],
  ['runner', 'one of the two did not answer'],
] as const)('says why nothing was compared: %s', (why_not, words) => {
  expect(answersWords({ cases: 0, why_not })).toContain(words)
})

it('lists a few names and says that there are more', () => {
  const added = ['a', 'b', 'c', 'd', 'e', 'f', 'g']
  expect(takenWords({ features: { added, gone: ['z'] }, classes: { added: ['glazed'], gone: [] } })).toBe('Taken over. New fields: a, b, c, d, e, f …. Gone: z. Classes: glazed for none.')
  expect(takenWords({})).toBe('Taken over.')
})
