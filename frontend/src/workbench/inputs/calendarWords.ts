/** How a number may count dates, in words. */
import type { Calendar } from '../../domain/calendars'

export const CALENDARS: [Calendar, string][] = [
  ['', 'no'],
  ['days', 'in days since 1970'],
  ['ordinal', 'in days since the year 1'],
  ['spreadsheet', 'in days as spreadsheets count'],
  ['seconds', 'in seconds since 1970'],
  ['milliseconds', 'in milliseconds since 1970'],
  ['microseconds', 'in microseconds since 1970'],
  ['nanoseconds', 'in nanoseconds since 1970'],
]
