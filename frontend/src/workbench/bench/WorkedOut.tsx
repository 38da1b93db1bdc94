/** A press that has something worked out by all rows kept beside a model, and how far that is. */
import { useMutation, useQuery } from '@tanstack/react-query'
import { Link } from 'wouter'
import { api, expectData, type JobView } from '../../api/client'
import { referenceText } from '../../parts/referenceWords'
import { Problem } from './Problem'

const FOLLOW_MS = 1000

export interface WorkedOutProps {
  slug: string
  kind: 'importance' | 'drift'
  /** Of the draft, rather than of what visitors see. */
  isDraft: boolean
  /** What the button says. */
  label: string
  onDone: () => void
}

export function WorkedOut({ slug, kind, isDraft, label, onDone }: WorkedOutProps) {
  const begin = useMutation({
    mutationFn: () => {
      const sent = new FormData()
      sent.set('kind', kind)
      const query = isDraft ? { draft: '1' } : {}
      return expectData(api.POST('/api/v1/demos/{slug}/jobs', { params: { path: { slug }, query }, body: sent as never, bodySerializer: () => sent }))
    },
  })
  const id = begin.data?.id
  const job = useQuery({
    queryKey: ['worked-out', id],
    enabled: id !== undefined,
    queryFn: async () => {
      const now = await expectData(api.GET('/api/v1/jobs/{job_id}', { params: { path: { job_id: id ?? '' } } }))
      // The server has something new to say: whoever shows it asks again. Once: then it is not followed any more.
      if (now.state === 'done') onDone()
      return now
    },
    refetchInterval: ({ state }) => (isOver(state.data) ? false : FOLLOW_MS),
  })
  const isDone = job.data?.state === 'done'
  const isUnderWay = begin.isPending || (id !== undefined && !isOver(job.data))
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-3" role="status">
        {!isUnderWay && !isDone && (
          <button type="button" className="button-quiet" onClick={() => begin.mutate()}>
            {label}
          </button>
        )}
        {job.data && <span className={job.data.state === 'failed' ? 'text-alert' : 'text-soft'}>{referenceText(job.data)}</span>}
        {isUnderWay && (
          <Link href="/jobs" className="button-quiet">
            Jobs
          </Link>
        )}
      </p>
      <Problem error={begin.error ?? job.error} />
    </>
  )
}

function isOver(job: JobView | undefined): boolean {
  return job !== undefined && job.state !== 'waiting' && job.state !== 'running'
}
