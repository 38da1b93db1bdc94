/** One table that a model is made of: what is seen in it, how models compare, and the page that comes of it. */
import type { JobView } from '../../api/client'
import { Problem } from '../bench/Problem'
import { Comparing } from './Comparing'
import { Fitting } from './Fitting'
import { Looking } from './Looking'
import { Made } from './Made'
import { useStarter } from './queries'

export function StarterPage({ id }: { id: string }) {
  const job = useStarter(id)
  return (
    <main className="mx-auto w-full max-w-6xl px-6 py-6">
      {job.isPending && <p className="text-soft">Looking…</p>}
      {job.isError && <Problem error={job.error} />}
      {job.data && <Stage job={job.data} />}
    </main>
  )
}

function Stage({ job }: { job: JobView }) {
  const { starter } = job
  if (job.held && starter?.compared) return <Comparing job={job} look={starter} compared={starter.compared} />
  if (job.held && starter) return <Looking job={job} look={starter} />
  if (job.state === 'done') return <Made job={job} />
  return <Fitting job={job} />
}
