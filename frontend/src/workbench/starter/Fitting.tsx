/** While models are fitted: how far it is, and a way to give it up. It can be left and come back to. */
import { Link } from 'wouter'
import type { JobView } from '../../api/client'
import { FaultList } from '../bench/FaultList'
import { useCancel } from './queries'
import { farText } from './starterWords'

export function Fitting({ job }: { job: JobView }) {
  const cancel = useCancel(job.id)
  const isOn = job.state === 'running' || job.state === 'waiting'
  const isMaking = Boolean(job.starter?.compared || job.starter?.again)
  const running = isMaking ? 'Making the page' : 'Comparing models'
  const title = !job.starter ? 'Looking at the table' : job.state === 'running' ? running : job.place > 0 ? 'Waiting for its turn' : 'In a moment'
  return (
    <section aria-labelledby="fitting-heading">
      <h1 id="fitting-heading" className="text-[1.6em] font-bold">
        {isOn ? title : job.state === 'cancelled' ? 'Cancelled' : 'It could not be made'}
      </h1>
      <p className="mt-1 text-soft">{job.file}</p>
      {isOn && (
        <progress className="progress-line mt-4 block w-full max-w-[36rem]" aria-label="How much is done" {...(job.total && job.done ? { value: job.done, max: job.total } : {})}>
          {job.total ? `${Math.round((100 * job.done) / job.total)} of 100` : ''}
        </progress>
      )}
      <p role="status" className={`mt-2 ${job.state === 'failed' ? 'text-alert' : ''}`}>
        {farText(job)}
      </p>
      {(job.errors?.length ?? 0) > 1 && <FaultList faults={job.errors ?? []} />}
      {isOn && <p className="text-soft">You can leave this page and come back: it goes on, and is found under Jobs.</p>}
      <p className="mt-3 flex gap-6">
        {isOn && (
          <button type="button" className="button-quiet" disabled={cancel.isPending} onClick={() => cancel.mutate()}>
            Cancel
          </button>
        )}
        {!isOn && (
          <Link href="/start" className="button-quiet">
            Start from another table
          </Link>
        )}
      </p>
    </section>
  )
}
