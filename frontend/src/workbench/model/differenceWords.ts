/** What another model or table would change, or has changed, in words. */
import type { Replaced } from '../../api/client'
import { groupedText, numberText } from '../../domain/format'

export type Differences = Replaced['differences']
export type AnswerDifferences = NonNullable<Differences['answers']>

const MOST_NAMES = 6

const WHY_NOT: Record<NonNullable<AnswerDifferences['why_not']>, string> = {
  rows: 'Their answers were not compared: neither came with rows to ask both about.',
  features: 'Their answers were not compared: no rows here have all the features that both take. Known cases with both sets of columns would do.',
  answer: 'Their answers cannot be compared: they answer with something else.',
  pictures: 'Their answers were not compared: there are no known pictures that both were asked about, prepared as they are now.',
  runner: 'Their answers were not compared: one of the two did not answer.',
}

export function answersWords(answers: Differences['answers']): string {
  if (!answers?.cases) return WHY_NOT[answers?.why_not ?? 'rows']
  const known = answers.better || answers.worse ? `, ${groupedText(answers.better ?? 0)} better and ${groupedText(answers.worse ?? 0)} worse` : ''
  const words = [`Of ${groupedText(answers.cases)} cases ${groupedText(answers.same ?? 0)} are answered as before, ${groupedText(answers.changed ?? 0)} otherwise${known}.`]
  if (answers.right) words.push(`Right for ${groupedText(answers.right[0])} of them before, for ${groupedText(answers.right[1])} now.`)
  const off = answers.mean_absolute_error?.map((value) => numberText(Number(value.toPrecision(3))))
  if (off) words.push(`Off by ${off[0]} in the mean before, by ${off[1]} now.`)
  return words.join(' ')
}

/** What was taken over, in a few sentences. */
export function takenWords({ features, classes, answers }: Differences): string {
  const words: string[] = []
  const names = (list: string[]) => `${list.slice(0, MOST_NAMES).join(', ')}${list.length > MOST_NAMES ? ' …' : ''}`
  if (features?.added?.length) words.push(`New fields: ${names(features.added)}.`)
  if (features?.gone?.length) words.push(`Gone: ${names(features.gone)}.`)
  if (features?.changed?.length) words.push(`Changed: ${names(features.changed)}.`)
  if (classes?.added?.length || classes?.gone?.length) words.push(`Classes: ${names(classes.added ?? []) || 'none'} for ${names(classes.gone ?? []) || 'none'}.`)
  if (classes?.order_changed) words.push('The classes stand in another order.')
  if (answers?.cases) words.push(answersWords(answers))
  return ['Taken over.', ...words].join(' ')
}
