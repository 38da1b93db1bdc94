/** What is said of jobs that work something out by the rows kept beside a model. Pure. */
import type { JobView } from '../api/client'
import { durationText } from './table/tableWords'
import { groupedText } from '../domain/format'

const NAMES: Record<string, string> = { importance: 'What matters overall, by all rows', drift: 'How its answers usually lie' }

/** What such a job is called; nothing for jobs of other kinds. */
export function referenceName({ kind }: JobView): string | undefined {
  return NAMES[kind]
}

/** How far such a job is, in a sentence. */
export function referenceText({ kind, state, place, done, total, seconds_left, detail }: JobView): string {
  if (state === 'waiting') return place > 0 ? `${place === 1 ? 'One other' : place} before it. It begins by itself.` : 'It begins in a moment.'
  if (state === 'cancelled') return 'Cancelled. What was known before stays.'
  if (state === 'failed') return detail
  if (state === 'done') return kind === 'importance' ? 'Worked out by all rows; the page says that from now on.' : 'Counted.'
  const left = seconds_left === null ? '' : ` About ${durationText(seconds_left)} left.`
  const far = kind === 'importance' ? `${done} of 100 done.` : `${groupedText(done)} of ${groupedText(total ?? 0)} rows asked about.`
  return `${done === 0 ? 'Begun.' : far}${left}`
}
