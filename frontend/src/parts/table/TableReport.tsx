/** How it did on the table's rows, where the table says what happened: fetched when somebody opens it. */
import { useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import { api, expectData, type AnswerSetting, type JobView } from '../../api/client'
import { ClassReport } from '../report/ClassReport'
import { NumberReport } from '../report/NumberReport'

export function TableReport({ job, answer }: { job: JobView; answer: AnswerSetting }) {
  const [isOpen, setIsOpen] = useState(false)
  const report = useQuery({
    queryKey: ['job-report', job.id],
    queryFn: () => expectData(api.GET('/api/v1/jobs/{job_id}/report', { params: { path: { job_id: job.id } } })),
    enabled: isOpen,
    retry: false,
  })
  return (
    <details className="mt-3" onToggle={(event) => setIsOpen(event.currentTarget.open)}>
      <summary>How it did on these rows, going by “{job.table?.outcome}”</summary>
      {report.isPending && isOpen && <p className="mt-2 text-soft">Counting…</p>}
      {report.error && <p className="mt-2 text-alert">{report.error.message}</p>}
      {report.data?.confusion && <ClassReport answer={answer} report={report.data} />}
      {report.data?.kind === 'number' && <NumberReport answer={answer} report={report.data} typicalError={undefined} />}
    </details>
  )
}
