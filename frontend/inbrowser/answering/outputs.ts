/** A model's outputs by the names that the page has for them. */
import type { AnswerSetting } from '../../src/api/client'
import { likeliest, thresholdOf } from './answers'

export function outputNames(answer: AnswerSetting): string[] {
  switch (answer.kind) {
    case 'class':
      return answer.classes.map(({ name }) => name)
    case 'labels':
      return answer.labels.map(({ name }) => name)
    case 'numbers':
      return answer.values.map(({ name }) => name ?? '')
    default:
      return ['name' in answer ? (answer.name ?? '') : '']
  }
}

/** The output that is explained: the one named, the one with a threshold, or the likeliest class or label. */
export function outputPlace(answer: AnswerSetting, of: string | undefined, outputs: readonly number[]): number {
  if (of !== undefined) return Math.max(0, outputNames(answer).indexOf(of))
  const threshold = answer.kind === 'class' ? thresholdOf(answer) : null
  if (threshold) return threshold.place
  return answer.kind === 'class' || answer.kind === 'labels' ? likeliest(outputs) : 0
}

export function outputUnit(answer: AnswerSetting, place: number): string {
  if (answer.kind === 'number') return answer.unit ?? ''
  return answer.kind === 'numbers' ? (answer.values[place].unit ?? '') : 'probability'
}
