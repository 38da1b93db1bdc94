/** How far the film is, and how long it takes. */
import type { JobView } from '../../api/client'
import { filmProgressText } from '../../parts/filmWords'
import { shareDone } from '../../parts/table/tableWords'

export function FilmProgress({ job }: { job: JobView }) {
  const share = shareDone(job)
  const isOn = job.state === 'running' || job.state === 'waiting'
  return (
    <>
      {isOn && (
        <progress className="progress-line mt-3 block w-full" aria-label="How much of the film is looked at" {...(share === null ? {} : { value: share, max: 1 })}>
          {share === null ? '' : `${Math.round(share * 100)} of 100`}
        </progress>
      )}
      <p role="status" className={`mt-1 ${job.state === 'failed' ? 'text-alert' : 'text-soft'}`}>
        {filmProgressText(job)}
      </p>
    </>
  )
}
