/** Numbers and values as a visitor reads them. */
import type { Field, InputValue, NumberField } from '../api/client'
import { dateWords } from './calendars'

/** A number without trailing zeros or an exponent, as one would type it. */
export function numberText(value: number): string {
  return String(Number(value.toPrecision(12)))
}

/** A field's number with no more digits than its range makes sense of: 0.3333 mm of a range of 10, never 0.333333333333. */
export function fieldNumberText(field: Pick<NumberField, 'step' | 'minimum' | 'maximum' | 'calendar'>, value: number): string {
  const date = field.calendar ? dateWords(value, field.calendar) : null
  if (date) return date
  const own = decimalsOf(field.step)
  const range = field.maximum - field.minimum
  const fine = range > 0 ? Math.max(0, Math.ceil(3 - Math.log10(range))) : own
  return numberText(Number(value.toFixed(Math.min(12, Math.max(own, fine)))))
}

function decimalsOf(step: number): number {
  for (let decimals = 0; decimals < 12; decimals += 1) if (Number(step.toFixed(decimals)) === step) return decimals
  return 12
}

const GROUPED = new Intl.NumberFormat('en-GB')

/** How many, as all pages write it: "940", "1,478". */
export function groupedText(count: number): string {
  return GROUPED.format(count)
}

/** So many of a kind: "4 crack", and where the kind is a number itself "45 for “3”". */
export function countText(count: number, label: string): string {
  return /^[\d.,+−-]/.test(label) ? `${count} for “${label}”` : `${count} ${label}`
}

/** A field's value in words: "14 mm", "Porcelain", "yes", "not known". */
export function valueText(field: Field, value: InputValue | undefined): string {
  if (value === null || value === undefined) return 'not known'
  switch (field.kind) {
    case 'number':
      return `${fieldNumberText(field, Number(value))} ${field.unit ?? ''}`.trim()
    case 'choice':
      return field.options.find((option) => option.value === value)?.label ?? String(value)
    case 'yes_no':
      return value ? 'yes' : 'no'
    case 'text':
      return String(value)
    case 'picture':
      return 'a picture'
    case 'drawing':
      return 'a drawing'
  }
}

// British lists have no comma before "and".
const LISTS = new Intl.ListFormat('en-GB')

/** "a, b and c" */
export function listText(words: string[]): string {
  return LISTS.format(words)
}

/** How long ago, in words; an empty string for never. */
export function agoText(time: string | null, now: Date): string {
  if (!time) return ''
  const seconds = Math.max(0, (now.getTime() - new Date(time).getTime()) / 1000)
  const steps: [number, string][] = [
    [86_400, 'day'],
    [3600, 'hour'],
    [60, 'minute'],
  ]
  for (const [size, name] of steps) {
    const count = Math.floor(seconds / size)
    if (count >= 1) return `${count} ${name}${count > 1 ? 's' : ''} ago`
  }
  return 'just now'
}

/** How much there is to fetch or to keep: "320 KB", "1.4 MB". */
export function weightText(bytes: number): string {
  return bytes < 950_000 ? `${Math.max(1, Math.round(bytes / 1000))} KB` : `${(bytes / 1e6).toFixed(bytes < 9_500_000 ? 1 : 0)} MB`
}
