/** Numbers as they are shown add up as shown: parts are rounded together, not each by itself. Pure functions. */
import type { Answer, Explanation, Page, PredictionAnswer, Words } from '../api/client'
import type { Where } from '../api/picture'
import { scaleOf, type Scale } from './why'

export interface AddedUp {
  start: number
  parts: number[]
  end: number
}

/**
 * Start, parts and end in whole steps of the last digit shown, so that the parts lead from the start to the end.
 *
 * Each part is rounded up or down by less than a step; those with the largest remainders are rounded away from what
 * would leave a gap, and a part of nothing stays nothing where another can take the step.
 *
 * @param values what each part adds, in the answer's own unit; they add up to `end` − `start` but for rounding
 * @param said the start as the server says it, where it does
 */
export function addUp(values: number[], start: number, end: number, scale: Scale, said?: Scale['own']): AddedUp {
  const steps = scale.factor * 10 ** scale.decimals
  const first = saidSteps(start, said, scale) ?? Math.round(start * steps)
  const last = saidSteps(end, scale.own, scale) ?? Math.round(end * steps)
  const exact = values.map((value) => value * steps)
  const counts = exact.map(Math.trunc)
  let gap = last - first - counts.reduce((sum, count) => sum + count, 0)
  while (gap !== 0 && counts.length > 0) {
    const way = Math.sign(gap)
    const at = mostWilling(exact, counts, way)
    counts[at] = (counts[at] ?? 0) + way
    gap -= way
  }
  return { start: first / steps, parts: counts.map((count) => count / steps), end: last / steps }
}

/** The part that a step this way brings nearest to what it is; of those alike the largest. */
function mostWilling(exact: number[], counts: number[], way: number): number {
  let best = 0
  let bestGain = Number.NEGATIVE_INFINITY
  exact.forEach((value, at) => {
    const left = (value - (counts[at] ?? 0)) * way
    const gain = value === 0 ? left - 2 : left + 1e-9 * Math.min(1e6, Math.abs(value))
    if (gain > bestGain) [best, bestGain] = [at, gain]
  })
  return best
}

/** A value as the server rounded it, in steps; null where `value` is another. */
function saidSteps(value: number, said: Scale['own'], { factor, decimals }: Scale): number | null {
  if (!said || Math.abs(value - said.value) > 1e-7 * Math.max(1, Math.abs(said.value))) return null
  const number = Number(said.text.replaceAll(/[\s\u202f\u00a0,]/g, '').replace('−', '-'))
  // "72" is of 100 already; a number's text is in its own unit.
  return Number.isFinite(number) ? Math.round(factor === 100 ? number : number * 10 ** decimals) : null
}

/** An answer whose explanation is put as it is shown, contributions and words alike. */
export function withShownNumbers(page: Pick<Page, 'answer' | 'usual'>, answer: PredictionAnswer): PredictionAnswer {
  if (!answer.explanation) return answer
  return { ...answer, explanation: shownExplanation(page, answer.answer, answer.explanation) }
}

function shownExplanation(page: Pick<Page, 'answer' | 'usual'>, answer: Answer, explanation: Explanation): Explanation {
  const scale = scaleOf(page.answer, explanation.of, answer)
  const usual = page.usual?.parts.find((part) => part.name === explanation.of)
  const { baseline, contributions } = explanation
  const values = contributions.map((one) => one.contribution)
  const shown = addUp(values, baseline, sumOf(values, baseline), scale, usual)
  return {
    ...explanation,
    baseline: shown.start,
    contributions: contributions.map((one, at) => ({ ...one, contribution: shown.parts[at] ?? 0 })),
    words: explanation.words?.map((words) => shownWords(words, scale)),
  }
}

function shownWords(words: Words, scale: Scale): Words {
  const values = words.words.map((word) => word.contribution)
  const shown = addUp(values, words.baseline, sumOf(values, words.baseline), scale)
  return { ...words, baseline: shown.start, words: words.words.map((word, at) => ({ ...word, contribution: shown.parts[at] ?? 0 })) }
}

/** The same for where the model looked: its ninths, or its strokes, add up from the covered picture to the whole one. */
export function shownWhere(where: Where, scale: Scale): Where {
  if (where.parts === 'strokes') {
    const shown = addUp(where.contributions, where.covered, where.whole, scale)
    return { ...where, covered: shown.start, whole: shown.end, contributions: shown.parts }
  }
  const shown = addUp(where.regions.map((region) => region.contribution), where.covered, where.whole, scale)
  return { ...where, covered: shown.start, whole: shown.end, regions: where.regions.map((region, at) => ({ ...region, contribution: shown.parts[at] ?? 0 })) }
}

export function sumOf(values: number[], start = 0): number {
  return values.reduce((sum, value) => sum + value, start)
}
