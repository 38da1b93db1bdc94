/** What explains an answer, as the fields and the answer need it: pure functions. */
import type { Answer, AnswerSetting, Curve, Explanation, InputValue, PredictionAnswer, Words } from '../api/client'

/** How contributions and curves are counted in words. */
export interface Scale {
  /** One unit of the answer in the words' unit: 100 for a probability, in points. */
  factor: number
  /** "points", "kWh". */
  unit: string
  decimals: number
  /** The answer itself and how the server rounded it: wherever that value is met, it is said so. */
  own?: { value: number; text: string }
}

/** What one field's control shows of the explanation. */
export interface FieldWhy {
  scale: Scale
  /** What the value adds to the answer, in the answer's own unit; null if that was not worked out. */
  push: number | null
  /** Whether the push was sampled, so that its last digits are not certain. */
  isEstimate: boolean
  curve: Curve | null
  /** The same for all fields, so that their ribbons can be compared: lowest and highest answer on any curve. */
  domain: [number, number]
  /** For a field of text, what its words did. */
  words: Words | null
  /** Whose answer the curve shows: the class in the visitor's words, or the number's name. */
  of: string
}

/** @param answer the answer that stands on the page, where what is said is about it */
export function scaleOf(setting: AnswerSetting, of: string, answer?: Answer): Scale {
  const own = answer && ownValue(answer, of)
  switch (setting.kind) {
    case 'number':
      return { factor: 1, unit: setting.unit ?? '', decimals: setting.decimals ?? 2, own }
    case 'numbers': {
      const part = setting.values.find((item) => item.name === of)
      return { factor: 1, unit: part?.unit ?? '', decimals: part?.decimals ?? 2, own }
    }
    default:
      return { factor: 100, unit: 'points', decimals: 0, own }
  }
}

function ownValue(answer: Answer, of: string): Scale['own'] {
  switch (answer.kind) {
    case 'class': {
      const one = answer.probabilities.find((item) => item.class === of)
      return one && { value: one.probability, text: String(one.of_100) }
    }
    case 'labels': {
      const one = answer.labels.find((item) => item.name === of)
      return one && { value: one.probability, text: String(one.of_100) }
    }
    case 'numbers':
      return answer.values.find((item) => item.name === of)
    case 'number':
      return answer
  }
}

/** Whether there are several answers, of which one is explained. */
export function isOfSeveral({ kind }: AnswerSetting): boolean {
  return kind === 'labels' || kind === 'numbers'
}

/** A class in the visitor's words; a number by its name. */
export function nameOf(setting: AnswerSetting, of: string): string {
  if (setting.kind === 'class') return setting.classes.find((wording) => wording.name === of)?.label ?? of
  if (setting.kind === 'labels') return setting.labels.find((wording) => wording.name === of)?.label ?? of
  return of
}

/** For each field what its control shows. */
export function whyOfFields(setting: AnswerSetting, answer: PredictionAnswer): Map<string, FieldWhy> {
  const curves = new Map((answer.curves ?? []).map((curve) => [curve.field, curve]))
  const contributions = new Map((answer.explanation?.contributions ?? []).map((one) => [one.field, one]))
  const of = answer.explanation?.of ?? answer.curves?.[0]?.of ?? ''
  const domain = domainOf(answer.curves ?? [], setting.kind === 'class' || setting.kind === 'labels')
  const why = new Map<string, FieldWhy>()
  for (const field of new Set([...curves.keys(), ...contributions.keys()])) {
    // Of one field alone all of the difference is its own: that says nothing.
    const contribution = contributions.size > 1 ? contributions.get(field) : undefined
    why.set(field, {
      scale: scaleOf(setting, of, answer.answer),
      push: contribution?.contribution ?? null,
      isEstimate: (contribution?.error ?? 0) > 0,
      curve: curves.get(field) ?? null,
      words: answer.explanation?.words?.find((one) => one.field === field) ?? null,
      domain,
      of: nameOf(setting, of),
    })
  }
  return why
}

/** Lowest and highest answer that ribbons and bars have room for. */
function domainOf(curves: Curve[], isProbability: boolean): [number, number] {
  const all = curves.flatMap((curve) => curve.y)
  const low = Math.min(...all)
  const high = Math.max(...all)
  if (!all.length) return [0, 1]
  if (isProbability) return [0, Math.max(high, 0.2)]
  // From nothing, so that bars twice as long mean twice as much, unless all of it would be a sliver at the top.
  if (low >= 0 && low <= 0.6 * high) return [0, high]
  const room = (high - low) * 0.08 || Math.abs(high) || 1
  return [low - room, high + room]
}

export interface Push {
  direction: 'up' | 'down' | 'none'
  /** "adds 8 points", "takes off 3 points", "hardly matters". */
  words: string
  /** "+8", "−3", "0". */
  short: string
}

/** A contribution in words, with no more digits than the answer has. */
export function pushOf(contribution: number, { factor, unit, decimals }: Scale, isEstimate = false): Push {
  const amount = grouped(Math.abs(contribution * factor), decimals)
  if (Number(Math.abs(contribution * factor).toFixed(decimals)) === 0) return { direction: 'none', words: 'hardly matters', short: '0' }
  const about = isEstimate ? 'about ' : ''
  const named = `${amount} ${unit === 'points' && amount === '1' ? 'point' : unit}`.trim()
  return contribution > 0
    ? { direction: 'up', words: `adds ${about}${named}`, short: `+${amount}` }
    : { direction: 'down', words: `takes off ${about}${named}`, short: `−${amount}` }
}

/** An answer on a curve, in words: "72 of 100", "412 kWh". */
export function answerWords(value: number, scale: Scale): string {
  const amount = amountText(value, scale)
  return scale.factor === 100 ? `${amount} of 100` : `${amount} ${scale.unit}`.trim()
}

/** The same without its unit. The answer's own value is not rounded anew. */
export function amountText(value: number, { factor, decimals, own }: Scale): string {
  if (own && Math.abs(value - own.value) <= 1e-7 * Math.max(1, Math.abs(own.value))) return own.text
  return grouped(value * factor, decimals)
}

/** Made once for each number of decimals: making one takes longer than using it a hundred times. */
const formats = new Map<number, Intl.NumberFormat>()

function formatOf(decimals: number): Intl.NumberFormat {
  const known = formats.get(decimals) ?? new Intl.NumberFormat('en', { minimumFractionDigits: decimals, maximumFractionDigits: decimals })
  formats.set(decimals, known)
  return known
}

/** Thousands set apart by a narrow space, as the server writes them. */
function grouped(value: number, decimals: number): string {
  const text = formatOf(decimals).format(value).replaceAll(',', '\u202f')
  return Number(value.toFixed(decimals)) === 0 ? text.replace('-', '') : text.replace('-', '−')
}

/** Where a curve stands at a value; null if it says nothing of it. */
export function curveAt(curve: Curve, value: InputValue): number | null {
  if (curve.shape === 'options') {
    const at = curve.x.indexOf(value)
    return at < 0 ? null : (curve.y[at] ?? null)
  }
  if (typeof value !== 'number' || curve.x.length === 0) return null
  const x = curve.x as number[]
  const after = x.findIndex((start) => start > value)
  const at = after < 0 ? x.length - 1 : after - 1
  if (curve.shape === 'steps') return curve.y[Math.max(at, 0)] ?? null
  const [x0, y0] = [x[Math.max(at, 0)] ?? 0, curve.y[Math.max(at, 0)] ?? 0]
  const [x1, y1] = [x[at + 1] ?? x0, curve.y[at + 1] ?? y0]
  return x1 > x0 ? y0 + ((Math.min(Math.max(value, x0), x1) - x0) / (x1 - x0)) * (y1 - y0) : y0
}

/** The strongest first, the small rest together. */
export function strongest(explanation: Explanation, count: number) {
  const shown = explanation.contributions.slice(0, count)
  const rest = explanation.contributions.slice(count)
  return { shown, rest, together: rest.reduce((sum, one) => sum + one.contribution, 0) }
}
