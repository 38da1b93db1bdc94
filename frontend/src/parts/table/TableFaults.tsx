/** Which rows of a table have a fault, and what is wrong with them. */
import { useQuery } from '@tanstack/react-query'
import { api, expectData, type JobView } from '../../api/client'
import { rowsText } from './tableWords'
import { groupedText } from '../../domain/format'

const SHOWN = 10

export function TableFaults({ job }: { job: JobView }) {
  const isOver = job.state !== 'running' && job.state !== 'waiting'
  const faults = useQuery({
    queryKey: ['job-faults', job.id, isOver],
    queryFn: () => expectData(api.GET('/api/v1/jobs/{job_id}/faults', { params: { path: { job_id: job.id }, query: { limit: SHOWN } as never } })),
  })
  const some = faults.data?.faults ?? []
  return (
    <details className="mt-3" open={isOver}>
      <summary>
        {rowsText(job.faults)} {job.faults === 1 ? 'has' : 'have'} a fault{isOver ? '' : ' so far'}
      </summary>
      <table className="mt-1 text-[0.92em]">
        <thead>
          <tr>
            {['row', 'column', 'what is wrong'].map((heading) => (
              <th key={heading} scope="col" className="border-b border-line py-1 pr-5 text-left font-normal text-soft">
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {some.map(({ row, column, message }) => (
            <tr key={`${row}${column}${message}`}>
              <td className="border-b border-line py-1 pr-5 align-top tabular-nums">{groupedText(row)}</td>
              <td className="border-b border-line py-1 pr-5 align-top">{column}</td>
              <td className="border-b border-line py-1 pr-5">{message}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-soft">
        {job.faults > some.length && some.length > 0 && `The first ${some.length} are shown. `}
        <a className="button-quiet" href={`/api/v1/jobs/${job.id}/faults?format=csv`} download>
          All of them as CSV
        </a>
      </p>
    </details>
  )
}
