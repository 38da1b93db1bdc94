/** Numbers that stand for dates: as the model counts them, and as a visitor reads and enters them. */
import type { NumberField } from '../api/client'

export type Calendar = NonNullable<NumberField['calendar']>

const DAY_MS = 86_400_000
/** Days from where a calendar begins to 1970. */
const DAYS_BEFORE: Partial<Record<Calendar, number>> = { ordinal: 719_163, spreadsheet: 25_569 }
const PER_DAY: Partial<Record<Calendar, number>> = { seconds: 86_400, milliseconds: 86_400e3, microseconds: 86_400e6, nanoseconds: 86_400e9 }
const ISO = /^\d{4}-\d{2}-\d{2}$/

/** A date as 2026-03-01; null for a number that stands for none. */
export function isoOf(value: number, calendar: Calendar): string | null {
  const days = Math.floor(value / (PER_DAY[calendar] ?? 1)) - (DAYS_BEFORE[calendar] ?? 0)
  const date = new Date(days * DAY_MS)
  const year = date.getUTCFullYear()
  return Number.isFinite(date.getTime()) && year >= 1 && year <= 9999 ? date.toISOString().slice(0, 10) : null
}

/** The number that the model knows a date by; null for what is no date, as 2026-02-30. */
export function numberOfIso(text: string, calendar: Calendar): number | null {
  const iso = text.trim()
  const time = ISO.test(iso) ? Date.parse(`${iso}T00:00:00Z`) : Number.NaN
  if (!Number.isFinite(time) || new Date(time).toISOString().slice(0, 10) !== iso) return null
  return (time / DAY_MS + (DAYS_BEFORE[calendar] ?? 0)) * (PER_DAY[calendar] ?? 1)
}

const WORDS = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })

/** "1 Mar 2026"; null for a number that stands for no date. */
export function dateWords(value: number, calendar: Calendar): string | null {
  const iso = isoOf(value, calendar)
  return iso && WORDS.format(new Date(`${iso}T00:00:00Z`))
}
