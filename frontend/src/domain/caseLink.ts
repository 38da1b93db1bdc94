/**
 * A link that carries exactly this case: the inputs stand behind the # of the address, which browsers do not send.
 */
import type { Field, InputValue } from '../api/client'
import { isPicture, type PictureValue } from '../api/picture'
import { defaultValues, formOf, type FormValues } from './formState'

const KEY = 'case='

/** What stands in the form as the end of an address: "#case=…". A visitor's own picture does not go along. */
export function caseFragment(values: FormValues): string {
  const told = Object.fromEntries(Object.entries(values).map(([name, value]) => [name, isPicture(value) && value.file ? null : value]))
  const bytes = new TextEncoder().encode(JSON.stringify(told))
  const plain = btoa(String.fromCharCode(...bytes))
  return `#${KEY}${plain.replaceAll('+', '-').replaceAll('/', '_').replace(/=+$/, '')}`
}

/**
 * The case in an address, as the form holds it; null if there is none, or none that can be read.
 *
 * Fields the page does not have any more are left out, and new ones start at what is usual: a link outlives edits.
 */
export function readCaseFragment(fragment: string, fields: Field[]): FormValues | null {
  if (!fragment.startsWith(`#${KEY}`)) return null
  try {
    const text = fragment.slice(KEY.length + 1).replaceAll('-', '+').replaceAll('_', '/')
    const bytes = Uint8Array.from(atob(text), (sign) => sign.charCodeAt(0))
    const given: unknown = JSON.parse(new TextDecoder().decode(bytes))
    if (typeof given !== 'object' || given === null) return null
    const values = defaultValues(fields)
    for (const field of fields) {
      const value = (given as Record<string, unknown>)[field.name]
      if (isValue(value)) values[field.name] = formOf([field], { [field.name]: value })[field.name] ?? null
    }
    return values
  } catch {
    // Cut off or changed on the way: the page then opens as it always does.
    return null
  }
}

function isValue(value: unknown): value is InputValue {
  if (isPicture(value as InputValue)) {
    const { sample, strokes } = value as PictureValue
    return typeof sample === 'string' || Array.isArray(strokes)
  }
  return value === null || ['string', 'number', 'boolean'].includes(typeof value)
}
