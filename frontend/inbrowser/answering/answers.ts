/** A row of a model's outputs as the demo's answer: the same marks, words and bounds as the server's. */
import type { Answer, AnswerSetting, ClassAnswer, ClassSetting, LabelsSetting, Note, NumberSetting, NumbersSetting } from '../../src/api/client'
import type { Evidence } from '../content'
import { exactSum, marginWords, numberText, numberWords, of100, rounded, share100 } from './rounding'

/** Rounding inside a library may leave the sum of probabilities this far from 1. */
const SUM_TOLERANCE = 1e-3
/** Evidence is kept for each whole percent of coverage from this on. */
const LEAST_COVERAGE = 50
const LIKELY = 0.5
const POSSIBLE = 0.1

export interface Wording {
  setting: AnswerSetting
  /** None also where a file cannot tell what is like known cases: it holds for nothing else. */
  evidence: Evidence | null
  /** One of what each class is, by its name. */
  singular: Record<string, string>
}

/** The model gave nothing that the answer could be. */
export class ModelFailed extends Error {
  override name = 'ModelFailed'
}

/**
 * The answer, and what is to be said of it. What known cases say of a class's certainty does not hold for a case that is
 * unlike them.
 */
export function makeAnswer({ setting, evidence, singular }: Wording, outputs: readonly number[], isUnlike = false): { answer: Answer; notes: Note[] } {
  if (!outputs.every(Number.isFinite)) throw new ModelFailed('The model gave no number for this case.')
  switch (setting.kind) {
    case 'class':
      return { answer: classAnswer(setting, outputs, isUnlike ? null : evidence, isUnlike, singular), notes: [] }
    case 'number':
      return numberAnswer(setting, outputs[0], evidence)
    case 'labels':
      return { answer: labelsAnswer(setting, outputs, evidence), notes: [] }
    case 'numbers':
      return numbersAnswer(setting, outputs, evidence)
    default:
      throw new ModelFailed('An answer of this kind is not made in this file.')
  }
}

/** The class that is said: the likeliest, or of two as a threshold has it. */
export function saidPlace(setting: ClassSetting, outputs: readonly number[]): number {
  const threshold = thresholdOf(setting)
  if (threshold === null) return likeliest(outputs)
  return outputs[threshold.place] >= threshold.least ? threshold.place : 1 - threshold.place
}

/** The class that has a threshold of its own, and from which probability on it is said. */
export function thresholdOf(setting: ClassSetting): { place: number; least: number } | null {
  if (setting.threshold === null || setting.threshold === undefined || !setting.gives_probabilities) return null
  const place = setting.classes.findIndex(({ name }) => name === setting.threshold_of)
  return place < 0 ? null : { place, least: setting.threshold }
}

/** Where the largest stands; of equal ones the first. */
export function likeliest(outputs: readonly number[]): number {
  return outputs.reduce((best, value, at) => (value > outputs[best] ? at : best), 0)
}

function descending(outputs: readonly number[]): number[] {
  return outputs.map((_, at) => at).sort((a, b) => outputs[b] - outputs[a])
}

function classAnswer(setting: ClassSetting, outputs: readonly number[], evidence: Evidence | null, isUnlike: boolean, singular: Record<string, string>): ClassAnswer {
  if (Math.min(...outputs) < -SUM_TOLERANCE || Math.abs(exactSum(outputs) - 1) > SUM_TOLERANCE) throw new ModelFailed('The model gave no probabilities for this case.')
  const order = descending(outputs)
  const at = saidPlace(setting, outputs)
  const said = setting.classes[at]
  const plain = { kind: 'class' as const, class: said.name, headline: said.headline, possible: null, calibrated: false, unlike: false }
  if (!setting.gives_probabilities) return { ...plain, probabilities: [] }
  const marks = share100(order.map((place) => Math.max(outputs[place], 0)))
  const probabilities = order.map((place, rank) => {
    const { name, label } = setting.classes[place]
    return { class: name, probability: Math.min(Math.max(outputs[place], 0), 1), of_100: marks[rank], label: marks[rank] === 1 ? (singular[name] ?? label) : label }
  })
  const possible = evidence && possibleClasses(setting, outputs, order, evidence)
  return { ...plain, probabilities, possible, calibrated: evidence !== null && bearsOut(evidence, at, outputs[at]), unlike: isUnlike }
}

function possibleClasses(setting: ClassSetting, outputs: readonly number[], order: number[], evidence: Evidence): ClassAnswer['possible'] {
  const coverage = setting.coverage ?? 0.9
  const margin = marginAt(evidence, coverage)
  if (margin === null) return null
  const places = order.filter((place) => place === order[0] || 1 - outputs[place] <= margin)
  const words = places.map((place) => (outputs[place] >= LIKELY ? 'likely' : outputs[place] >= POSSIBLE ? 'possible' : 'not ruled out'))
  return { classes: places.map((place) => setting.classes[place].name), words, coverage }
}

function marginAt(evidence: Evidence, coverage: number): number | null {
  return evidence.margins[rounded(coverage * 100, 0) - LEAST_COVERAGE] ?? null
}

function bearsOut(evidence: Evidence, place: number, probability: number): boolean {
  const percent = rounded(probability * 100, 0)
  return (evidence.borne_out[place] ?? []).some(([low, high]) => low <= percent && percent <= high)
}

function labelsAnswer(setting: LabelsSetting, outputs: readonly number[], evidence: Evidence | null): Answer {
  const labels = descending(outputs).map((at) => {
    const { label, name, threshold } = setting.labels[at]
    const probability = Math.min(Math.max(outputs[at], 0), 1)
    const own = evidence?.outputs[at]
    const calibrated = setting.gives_probabilities === true && own !== undefined && bearsOut(own, 0, probability)
    return { label, name, probability, of_100: of100(probability), applies: probability >= (threshold ?? 0.5), calibrated }
  })
  return { kind: 'labels', labels }
}

function numbersAnswer(setting: NumbersSetting, outputs: readonly number[], evidence: Evidence | null): { answer: Answer; notes: Note[] } {
  const parts = setting.values.map((part, at) => ({ name: part.name ?? '', ...numberAnswer(part, outputs[at], evidence?.outputs[at] ?? null) }))
  const values = parts.map(({ name, answer: { value, unit, text, interval } }) => ({ name, value, unit, text, interval }))
  return { answer: { kind: 'numbers', values }, notes: parts.flatMap(({ notes }) => notes) }
}

function numberAnswer(setting: NumberSetting, value: number, evidence: Evidence | null) {
  const decimals = setting.decimals ?? 2
  const unit = setting.unit ?? ''
  const text = numberWords(value, decimals)
  const margin = evidence && marginAt(evidence, setting.coverage ?? 0.9)
  const interval = margin === null ? null : { low: value - margin, high: value + margin, coverage: setting.coverage ?? 0.9, text: marginWords(margin, decimals) }
  const shown = rounded(value, decimals)
  const band = (setting.bands ?? []).find(({ below }) => below === null || below === undefined || shown < below) ?? null
  const answer = { kind: 'number' as const, value, unit, text, interval, band }
  const { low, high } = setting
  if (typeof low !== 'number' || typeof high !== 'number' || (low <= value && value <= high)) return { answer, notes: [] as Note[] }
  const own = unit ? ` ${unit}` : ''
  const side = value < low ? 'below' : 'above'
  const message = `${setting.name} ${text}${own} is ${side} every outcome in the author's table (${numberText(low)} to ${numberText(high)}${own}). Take it with care.`
  return { answer, notes: [{ field: null, level: 'warn' as const, message, code: 'unlike-outcomes' as const }] }
}
