/** What is said of a table and of the work on it. Pure. */
import type { JobView } from '../../api/client'
import { groupedText } from '../../domain/format'

/** "3 seconds", "4 minutes", "2 hours": no finer than it can be known. */
export function durationText(seconds: number): string {
  if (seconds < 1.5) return 'a second'
  if (seconds < 90) return `${Math.round(seconds)} seconds`
  if (seconds < 5400) return `${Math.round(seconds / 60)} minutes`
  return `${Math.round(seconds / 3600)} hours`
}

export function rowsText(rows: number): string {
  return `${groupedText(rows)} ${rows === 1 ? 'row' : 'rows'}`
}

/** "1,204 rows"; what is an estimate is said as one, and no finer than it is: "about 1,000,000 rows". */
export function totalText({ total, total_is_estimate }: JobView): string {
  return total_is_estimate ? `about ${rowsText(Number((total ?? 0).toPrecision(2)))}` : rowsText(total ?? 0)
}

/** How far a job is, in a sentence. */
export function progressText(job: JobView): string {
  if (job.state === 'waiting') return job.place > 0 ? `${job.place === 1 ? 'One other' : job.place} before yours. It begins by itself.` : 'It begins in a moment.'
  if (job.state === 'cancelled') return 'Cancelled. Nothing is kept of it.'
  if (job.state === 'failed') return job.detail
  if (job.state === 'done') return doneText(job)
  const left = job.seconds_left !== null ? ` About ${durationText(job.seconds_left)} left.` : ''
  const of = job.total ? ` of ${totalText(job)}` : ''
  return job.done === 0 ? 'Begun.' : `${groupedText(job.done)}${of} answered.${left}`
}

function doneText({ done, answered, detail }: JobView): string {
  const all = answered === done ? `All ${rowsText(done)} are answered.` : `${groupedText(answered)} of ${rowsText(done)} are answered; the others say why not.`
  return detail ? `${detail} ${all}` : all
}

/** From 0 to 1; null while it cannot be told. */
export function shareDone({ done, total }: JobView): number | null {
  return total ? Math.min(1, done / total) : null
}

/** A cell as it is shown: long ones are cut, numbers keep four digits behind the point. */
export function cellText(cell: string): string {
  const number = /^(-?\d+)([.,])(\d{5,})$/.exec(cell)
  if (number) return Number(`${number[1]}.${number[3]}`).toFixed(4).replace('.', number[2] ?? '.')
  return cell.length > 40 ? `${cell.slice(0, 39)}…` : cell
}

/** A sentence about columns as a visitor reads it: names stand in quotation marks. */
export function plainText(sentence: string): string {
  return sentence.replace(/`([^`]+)`/g, '“$1”')
}
