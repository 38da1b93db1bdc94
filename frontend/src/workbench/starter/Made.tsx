/** What came of a table: a draft, and what its checks say. */
import { Link } from 'wouter'
import type { CheckResult, JobView } from '../../api/client'
import { KeptError } from './KeptError'

export function Made({ job }: { job: JobView }) {
  const slug = job.result?.slug ?? ''
  return (
    <section aria-labelledby="made-heading">
      <h1 id="made-heading" className="text-[1.6em] font-bold">
        {job.starter?.again ? 'Fitted again' : 'The page is made'}
      </h1>
      <p className="mt-2 max-w-[65ch]">
        {job.starter?.again ? 'The new model is in the draft; visitors keep the release they have. What differs stands under Model.' : 'It is a draft, which only you can see: labels and units are taken from the headers. Read it as a visitor would, look at its checks, then publish it.'}
      </p>
      <KeptError found={job.starter?.kept_error} />
      <Checked checks={job.starter?.checks ?? []} />
      <p className="mt-4 flex flex-wrap gap-x-6 gap-y-2">
        <Link href={`/demos/${slug}/model`} className="button-primary">
          Open it
        </Link>
        <Link href={`/demos/${slug}/checks`} className="button-quiet self-center">
          See its checks
        </Link>
      </p>
    </section>
  )
}

/** What its checks came to when it was made: how many pass, and what the others say. */
function Checked({ checks }: { checks: readonly CheckResult[] }) {
  const made = checks.filter(({ status }) => status !== 'skip')
  const others = made.filter(({ status }) => status !== 'pass')
  if (made.length === 0) return null
  return (
    <div className="card-line mt-5 pt-4" data-testid="checked">
      <p>
        {made.length - others.length} of {made.length} checks pass.
      </p>
      <ul>
        {others.map(({ name, status, finding }) => (
          <li key={name} className={status === 'fail' ? 'text-alert' : 'text-caution'}>
            <span aria-hidden="true">{status === 'fail' ? '✕' : '!'} </span>
            {finding}
          </li>
        ))}
      </ul>
    </div>
  )
}
