/** A visitor's values against the fields, as the server checks them: every fault at once, what is unusual as notes. */
import type { Field, FieldProblem, Note, NumberField, YesNoField } from '../../src/api/client'
import { isoOf, numberOfIso } from '../../src/domain/calendars'
import type { Value } from '../../runtime/blocks'
import { numberText, rounded, significant } from './rounding'

const QUOTED_CHARACTERS = 60
const NAMED_OPTIONS = 8
/** Of the range that was seen: further than this beyond it is beyond it, however coarse the steps are. */
const SLIDER_SLACK = 0.01

export interface Checked {
  /** One value for every field, as the model knows it. */
  values: Record<string, Value>
  notes: Note[]
}

/** What is wrong with a case, field by field. */
export class InputFaults extends Error {
  override name = 'InputFaults'
  constructor(readonly faults: FieldProblem[]) {
    super(faults.map(({ message }) => message).join(' '))
  }
}

/** What is wrong with a value, without the field's name in front. */
class NotAccepted extends Error {}

/** Check a case. Throws `InputFaults`. */
export function checkInputs(fields: readonly Field[], inputs: Record<string, unknown>): Checked {
  const faults: FieldProblem[] = []
  const notes: Note[] = []
  const values: Record<string, Value> = {}
  for (const field of fields) {
    try {
      const [value, note] = checked(field, inputs)
      values[field.name] = value
      if (note) notes.push({ field: field.name, level: 'warn', message: note, code: null })
    } catch (error) {
      if (!(error instanceof NotAccepted)) throw error
      faults.push({ field: field.name, message: `${field.label} ${error.message}` })
    }
  }
  const known = new Set(fields.map(({ name }) => name))
  for (const name of Object.keys(inputs).filter((one) => !known.has(one))) faults.push({ field: name, message: `There is no field ${quoted(name)}. Leave it out.` })
  if (faults.length) throw new InputFaults(faults)
  return { values, notes }
}

function checked(field: Field, inputs: Record<string, unknown>): [Value, string] {
  if (field.hidden) {
    const fixed = field.default === null ? null : checkValue(field, field.default)[0]
    if (field.name in inputs && checkValue(field, inputs[field.name])[0] !== fixed) throw new NotAccepted('is fixed by the author of this page. Leave it out.')
    return [fixed, '']
  }
  if (!(field.name in inputs)) throw new NotAccepted(`is missing.${field.optional ? ' Give null where it is not known.' : ''}`)
  return checkValue(field, inputs[field.name])
}

function checkValue(field: Field, entered: unknown): [Value, string] {
  if (entered === null || entered === undefined) {
    if (field.optional) return [null, '']
    throw new NotAccepted(`is empty. ${wanted(field)}`)
  }
  switch (field.kind) {
    case 'number':
      return checkNumber(field, entered)
    case 'choice': {
      const option = field.options.find(({ value }) => isSameOption(value, entered))
      if (option) return [option.value, '']
      if (field.other && typeof entered === 'string') return [entered, `${quoted(entered)} is not one of the usual options for ${field.label}. Take the answer with care.`]
      throw new NotAccepted(`cannot be ${quoted(entered)}. ${wanted(field)}`)
    }
    case 'yes_no':
      return [checkYesNo(field, entered), '']
    case 'text':
      if (typeof entered !== 'string') throw new NotAccepted(`must be text. You gave ${quoted(entered)}.`)
      if (!entered.trim()) throw new NotAccepted('is empty. Write a few words.')
      if ([...entered].length > (field.max_length ?? Number.POSITIVE_INFINITY)) throw new NotAccepted(`is ${[...entered].length} characters long; the limit is ${field.max_length}. Shorten it.`)
      return [entered, '']
    default:
      throw new NotAccepted('cannot be looked at in this file.')
  }
}

function checkNumber(field: NumberField, entered: unknown): [number, string] {
  let value = entered
  if (field.calendar && typeof entered === 'string') {
    value = numberOfIso(entered, field.calendar)
    if (value === null) throw new NotAccepted(`must be a date. You gave ${quoted(entered)}. ${wanted(field)}`)
  }
  if (typeof value !== 'number') throw new NotAccepted(`must be a number. You gave ${quoted(entered)}. ${wanted(field)}`)
  if (!Number.isFinite(value)) throw new NotAccepted(`must be an ordinary number, neither infinite nor “not a number”. ${wanted(field)}`)
  if (field.whole && !Number.isInteger(value)) throw new NotAccepted(`must be a whole number. You gave ${numberText(value)}. Try ${Math.floor(value + 0.5)}.`)
  return [value, unusual(field, value)]
}

/** That a number lies outside what was seen; nothing for one within. */
function unusual(field: NumberField, value: number): string {
  const { seen } = field
  if (seen.source === 'none') return ''
  const slack = SLIDER_SLACK * (seen.high - seen.low)
  const low = Math.max(onStep(seen.low, field.step, Math.floor), seen.low - slack)
  const high = Math.min(onStep(seen.high, field.step, Math.ceil), seen.high + slack)
  if (low <= value && value <= high) return ''
  const [before, after] = field.calendar ? ['before', 'after'] : ['below', 'above']
  const unit = field.unit ? ` ${field.unit}` : ''
  const known = seen.source === 'table' ? "everything in the author's table" : 'what this page is made for'
  const range = `${fieldNumberText(field, seen.low)} to ${fieldNumberText(field, seen.high)}${unit}`
  return `${field.label} ${fieldNumberText(field, value)}${unit} is ${value < seen.low ? before : after} ${known} (${range}). Take the answer with care.`
}

function onStep(value: number, step: number, toWhole: (value: number) => number): number {
  return Number(significant(toWhole(rounded(value / step, 6)) * step, 12))
}

/** Whether `entered` names this option: itself, or a number and its text taken for each other. */
function isSameOption(option: string | number | boolean, entered: unknown): boolean {
  if (typeof option === 'boolean' || typeof entered === 'boolean') return option === entered
  if (typeof option === typeof entered) return option === entered
  if (typeof entered !== 'string' && typeof entered !== 'number') return false
  const [text, number] = typeof option === 'string' ? [option, entered] : [entered as string, option]
  return text.trim() !== '' && Number(text) === number
}

function checkYesNo(field: YesNoField, entered: unknown): string | number | boolean {
  if (typeof entered === 'boolean') return entered ? field.yes : field.no
  for (const value of [field.no, field.yes]) if (typeof value !== 'boolean' && isSameOption(value, entered)) return value
  if (typeof field.yes === 'boolean' && (entered === 0 || entered === 1)) return entered ? field.yes : field.no
  throw new NotAccepted(`must be yes (true) or no (false). You gave ${quoted(entered)}.`)
}

/** What would be accepted, as a sentence. */
function wanted(field: Field): string {
  switch (field.kind) {
    case 'number':
      return `Try ${fieldNumberText(field, field.default ?? field.seen.low)}.`
    case 'choice': {
      const names = field.options.map(({ value }) => quoted(value))
      return `Choose one of ${names.slice(0, NAMED_OPTIONS).join(', ')}${names.length > NAMED_OPTIONS ? ` and ${names.length - NAMED_OPTIONS} more` : ''}.`
    }
    case 'yes_no':
      return 'Choose yes (true) or no (false).'
    default:
      return 'Write a few words.'
  }
}

function quoted(entered: unknown): string {
  const text = typeof entered === 'string' ? `"${entered}"` : plain(entered)
  const characters = [...text]
  return characters.length <= QUOTED_CHARACTERS ? text : `${characters.slice(0, QUOTED_CHARACTERS - 1).join('')}…`
}

function plain(entered: unknown): string {
  if (typeof entered === 'boolean') return entered ? 'true' : 'false'
  if (typeof entered === 'number') return numberText(entered)
  return Array.isArray(entered) ? 'a list' : typeof entered === 'object' && entered !== null ? 'an object' : 'nothing'
}

/** A field's number without its unit; a date where it stands for one. */
export function fieldNumberText(field: NumberField, value: number): string {
  return field.calendar ? (isoOf(value, field.calendar) ?? significant(value, 6)) : numberText(value)
}
