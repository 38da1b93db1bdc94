/** What stands in the form: a pure reducer. Numbers are kept as typed, so that "1." and "" are not rewritten. */
import type { Field, FieldProblem, Inputs, InputValue, NumberField } from '../api/client'
import { isPicture, WHOLE } from '../api/picture'
import { isoOf, numberOfIso } from './calendars'
import { fieldNumberText, numberText } from './format'
import { entryText, parseNumber, readings, signsOf } from './numbers'

/** How whoever sits here writes numbers. */
export const SIGNS = signsOf(globalThis.navigator?.language)

/** What a control shows: text for numbers and text, the value itself for the rest, null for "not known". */
export type FormValues = Record<string, InputValue>

export type FormAction =
  | { type: 'set'; name: string; value: InputValue }
  | { type: 'replace'; values: FormValues }

export function formReducer(values: FormValues, action: FormAction): FormValues {
  switch (action.type) {
    case 'set':
      return { ...values, [action.name]: action.value }
    case 'replace':
      return action.values
  }
}

/** What the form starts from: the usual case. */
export function defaultValues(fields: Field[]): FormValues {
  return Object.fromEntries(fields.map((field) => [field.name, defaultValue(field)]))
}

/** Inputs as the form holds them. */
export function formOf(fields: Field[], inputs: Inputs): FormValues {
  const byName = new Map(fields.map((field) => [field.name, field]))
  return Object.fromEntries(
    Object.entries(inputs).map(([name, value]) => [name, formValue(value, byName.get(name))]),
  )
}

/** A number as it is put into its field's control. */
export function fieldEntry({ calendar }: Pick<NumberField, 'calendar'>, value: number): string {
  return (calendar && isoOf(value, calendar)) || entryText(value, SIGNS)
}

function formValue(value: InputValue, field: Field | undefined): InputValue {
  if (typeof value === 'number' && field?.kind === 'number') return fieldEntry(field, value)
  // A sample says where its picture is; nothing of that is cut out yet.
  return isPicture(value) ? { ...value, cut: value.cut ?? WHOLE, turn: value.turn ?? 0 } : value
}

/** The form after the author changed the fields: what still stood at an old default stands at the new one. */
export function followDefaults(values: FormValues, before: Field[], after: Field[]): FormValues {
  if (before === after) return values
  const old = defaultValues(before)
  const fresh = defaultValues(after)
  const moved = Object.keys(fresh).filter((name) => values[name] === old[name] && fresh[name] !== old[name])
  return moved.length ? { ...values, ...Object.fromEntries(moved.map((name) => [name, fresh[name] ?? null])) } : values
}

function defaultValue(field: Field): InputValue {
  switch (field.kind) {
    case 'number':
      return field.default === null ? null : fieldEntry(field, field.default)
    case 'text':
      return field.default ?? ''
    default:
      return field.default ?? null
  }
}

export type ReadForm = { ok: true; inputs: Inputs } | { ok: false; faults: FieldProblem[] }

/** The form as inputs for the model, or what is wrong with it. */
export function readForm(fields: Field[], values: FormValues): ReadForm {
  const inputs: Inputs = {}
  const faults: FieldProblem[] = []
  for (const field of fields) {
    const value = values[field.name] ?? null
    if (value === null) {
      if (field.optional) inputs[field.name] = null
      else faults.push({ field: field.name, message: emptyMessage(field) })
    } else if (field.kind === 'number') {
      const number = readNumber(field, String(value))
      if (number === null) faults.push({ field: field.name, message: numberMessage(field, String(value)) })
      else if (isDoubtful(field, withoutUnit(field, String(value)), number)) faults.push({ field: field.name, message: doubtMessage(field, withoutUnit(field, String(value)).trim()) })
      else inputs[field.name] = number
    } else if (field.kind === 'text' && String(value).trim() === '') {
      faults.push({ field: field.name, message: emptyMessage(field) })
    } else {
      inputs[field.name] = value
    }
  }
  return faults.length ? { ok: false, faults } : { ok: true, inputs }
}

/** A number as it was typed, with or without its unit, or a date; null if it is none. */
export function readNumber(field: Pick<NumberField, 'unit' | 'calendar'>, text: string): number | null {
  if (field.calendar) return numberOfIso(text, field.calendar)
  return parseNumber(withoutUnit(field, text), SIGNS)
}

/** "7.6 mm" and "7.6mm" are 7.6 where the field is in mm. */
function withoutUnit({ unit }: Pick<NumberField, 'unit'>, text: string): string {
  const plain = (words: string) => words.replaceAll(/\s/g, '').toLowerCase()
  const wanted = plain(unit ?? '')
  for (let at = text.length; wanted && at > 0; at -= 1) if (plain(text.slice(at)) === wanted) return text.slice(0, at)
  return text
}

/** Whether a text was read as a number nobody meets here, though its other reading is usual: it is asked about instead. */
function isDoubtful(field: Extract<Field, { kind: 'number' }>, text: string, number: number): boolean {
  const isUsual = (value: number) => value >= Math.min(field.minimum, field.seen.low) && value <= Math.max(field.maximum, field.seen.high)
  return !isUsual(number) && (readings(text)?.some((other) => other !== number && isUsual(other)) ?? false)
}

function doubtMessage(field: Field, text: string): string {
  const [large, small] = readings(text) ?? [0, 0]
  return `${field.label}: “${text}” may be ${numberText(large)} or ${numberText(small)}. Type the one you mean, without a sign that groups.`
}

function emptyMessage(field: Field): string {
  switch (field.kind) {
    case 'text':
      return `${field.label} is empty. Write a few words.`
    case 'picture':
      return `${field.label} is missing. Choose a picture.`
    case 'drawing':
      return `${field.label} is empty. Draw something.`
    default:
      return `${field.label} is empty. Choose or type a value.`
  }
}

function numberMessage(field: Extract<Field, { kind: 'number' }>, text: string): string {
  const usually = (field.seen.source ?? 'table') === 'table' ? 'usually ' : ''
  const range = `a ${field.calendar ? 'date' : 'number'}, ${usually}from ${fieldNumberText(field, field.minimum)} to ${fieldNumberText(field, field.maximum)}`
  return text.trim() === '' ? `${field.label} is empty. Type ${range}.` : `${field.label} must be ${range}. You typed “${text}”.`
}
