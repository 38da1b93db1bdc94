/** All work that takes longer than a call, of all demos: how far it is, and what came of it. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from 'wouter'
import { api, expectData, type JobView } from '../../api/client'
import { agoText } from '../../domain/format'
import { filmProgressText } from '../../parts/filmWords'
import { referenceName, referenceText } from '../../parts/referenceWords'
import { progressText } from '../../parts/table/tableWords'
import { useNow } from '../../parts/useNow'

const KEY = ['jobs']
const FOLLOW_MS = 2000
const ENDED = new Set(['done', 'failed', 'cancelled'])

export function JobsPage() {
  const jobs = useQuery({ queryKey: KEY, queryFn: () => expectData(api.GET('/api/v1/jobs')), refetchInterval: FOLLOW_MS })
  const found = jobs.data?.jobs ?? []
  return (
    <main className="mx-auto w-full max-w-5xl px-6 py-8">
      <h1 className="text-[1.6em] font-bold">Jobs</h1>
      <p className="mt-1 text-soft">Tables and films that you or your visitors have answered, libraries that models ask for, large models, and what is worked out by a whole reference table. What came of your tables is kept for a week, of theirs for a day; a film is forgotten when its page is left.</p>
      {jobs.isError && <p className="mt-4 text-alert">{jobs.error.message}</p>}
      {jobs.data && found.length === 0 && <p className="mt-6 text-soft">None. Bring a table under Share, at one of your demos, or a film on the page of one that takes them.</p>}
      <ul className="mt-4">
        {found.map((job) => (
          <JobRow key={job.id} job={job} />
        ))}
      </ul>
      {jobs.data && jobs.data.total > found.length && <p className="mt-3 text-soft">The newest {found.length} of {jobs.data.total} are shown.</p>}
    </main>
  )
}

function jobText(job: JobView): string {
  if (job.held) return job.starter?.compared ? 'Models are compared; waits for a word to make the page.' : 'Looked at; waits for a word to begin.'
  if (isMaking(job)) return makingText(job)
  if (referenceName(job)) return referenceText(job)
  return job.kind === 'video' ? filmProgressText(job) : progressText(job)
}

/** Whether a demo, or libraries for one, are made by it; no table or film is answered. */
function isMaking({ kind }: JobView): boolean {
  return kind === 'environment' || kind === 'model' || kind === 'starter'
}

function makingText({ kind, state, place, detail }: JobView): string {
  if (state === 'waiting') return place > 0 ? `${place === 1 ? 'One other' : place} before it. It begins by itself.` : 'It begins in a moment.'
  if (state === 'running') return kind === 'model' ? 'Being opened.' : kind === 'starter' ? 'Models are fitted.' : 'Being built.'
  if (state === 'cancelled') return 'Cancelled. Nothing is kept of it.'
  if (state === 'failed') return detail
  return kind === 'model' ? 'Opened.' : kind === 'starter' ? 'The page is made.' : 'Built.'
}

function JobRow({ job }: { job: JobView }) {
  const queries = useQueryClient()
  const now = useNow()
  const drop = useMutation({
    mutationFn: () => expectData(api.DELETE('/api/v1/jobs/{job_id}', { params: { path: { job_id: job.id } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: KEY }),
  })
  const isOver = ENDED.has(job.state)
  const name = referenceName(job) ?? job.file
  return (
    <li className="card-line grid items-baseline gap-x-6 gap-y-1 py-3 min-[700px]:grid-cols-[minmax(0,6fr)_minmax(0,7fr)_7rem]">
      <span>
        <span className="font-bold">{name}</span>
        <br />
        {job.demo ? (
          <Link href={`/demos/${job.demo}${isMaking(job) ? '' : job.kind === 'importance' ? '/answer' : '/share'}`} className="button-quiet">
            {job.title}
          </Link>
        ) : job.kind === 'starter' ? (
          <Link href={`/start/${job.id}`} className="button-quiet">
            {job.title}
          </Link>
        ) : (
          job.title
        )}
        <span className="text-soft">
          , {job.kind === 'model' ? 'a model' : job.kind === 'starter' ? 'a model of a table' : job.kind === 'environment' ? 'libraries' : job.release === null ? 'draft' : `release ${job.release}`}, {job.by_author ? 'yours' : 'a visitor’s'}, {agoText(job.created, now)}
        </span>
      </span>
      <span className={`${job.state === 'failed' ? 'text-alert' : ''}`}>{jobText(job)}</span>
      <span className="flex justify-end gap-4">
        {job.result?.formats && job.result.formats.length > 0 && (
          <a className="button-quiet" href={`/api/v1/jobs/${job.id}/result?format=csv`} download aria-label={`CSV of ${job.file}`}>
            CSV
          </a>
        )}
        <button type="button" className="button-quiet" aria-label={`${isOver ? 'Forget' : 'Cancel'} ${name}`} onClick={() => drop.mutate()}>
          {isOver ? 'Forget' : 'Cancel'}
        </button>
      </span>
    </li>
  )
}
