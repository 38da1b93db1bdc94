/** How far the work on a table is, and what came of it. */
import type { JobView } from '../../api/client'
import { plainText, progressText, shareDone } from './tableWords'

const FORMATS = { csv: 'CSV', xlsx: 'Spreadsheet', parquet: 'Parquet' } as const

export function TableProgress({ job, onDrop }: { job: JobView; onDrop: () => void }) {
  const share = shareDone(job)
  const isOn = job.state === 'running' || job.state === 'waiting'
  return (
    <>
      {isOn && (
        <progress className="progress-line mt-2 block w-full max-w-[36rem]" aria-label="How much is done" {...(share === null ? {} : { value: share, max: 1 })}>
          {share === null ? '' : `${Math.round(share * 100)} of 100`}
        </progress>
      )}
      <p role="status" className={`mt-1 ${job.state === 'failed' ? 'text-alert' : ''}`}>
        {plainText(progressText(job))}
      </p>
      {isOn && <p className="text-soft">You can leave this page and come back: it goes on, and is found here again in this browser.</p>}
      {job.result && <Take job={job} />}
      <p className="mt-2">
        <button type="button" className="button-quiet" onClick={onDrop}>
          {isOn ? 'Cancel' : 'Another table'}
        </button>
        {!isOn && job.result && <span className="text-soft"> (takes this one away)</span>}
      </p>
    </>
  )
}

function Take({ job }: { job: JobView }) {
  const until = job.result?.kept_until
  return (
    <p className="mt-2 flex flex-wrap items-baseline gap-x-5">
      <span>Take it as</span>
      {(['csv', 'xlsx', 'parquet'] as const).map((format) => (
        <a key={format} className="button-quiet" href={`/api/v1/jobs/${job.id}/result?format=${format}`} download>
          {FORMATS[format]}
        </a>
      ))}
      {until && <span className="text-soft">Kept until {new Date(until).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}.</span>}
    </p>
  )
}

