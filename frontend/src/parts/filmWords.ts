/** What is said of the work on a film. Pure. */
import type { JobView } from '../api/client'
import { framesText } from '../domain/films'
import { durationText } from './table/tableWords'

/** How far a film is, in a sentence or two. */
export function filmProgressText(job: JobView): string {
  const left = job.seconds_left === null ? '' : ` About ${durationText(job.seconds_left)} ${job.state === 'waiting' ? 'until it is done' : 'left'}.`
  if (job.state === 'waiting') return `${job.place > 0 ? `${job.place === 1 ? 'One other film is' : `${job.place} other films are`} before yours. It begins by itself.` : 'It begins in a moment.'}${left}`
  if (job.state === 'running') return `${job.done === 0 ? 'Begun.' : `${framesText(job.done)} of about ${job.total ?? '…'}.`}${left}`
  if (job.state === 'cancelled') return 'Cancelled. Nothing is kept of it.'
  if (job.state === 'failed') return job.detail
  const all = job.faults === 0 ? `All ${framesText(job.done)} that were asked about have an answer.` : `${job.answered} of ${framesText(job.done)} have an answer; the others say why not.`
  return job.detail ? `${job.detail} ${all}` : all
}
