/** A table that has come: what was understood of it, how far it is, what came of it. */
import type { AnswerSetting, Field, JobView } from '../../api/client'
import { TableFaults } from './TableFaults'
import { TableLook } from './TableLook'
import { TableProgress } from './TableProgress'
import { TableReport } from './TableReport'
import type { TableJob } from './useTableJob'

export interface TableStateProps {
  job: JobView
  answer: AnswerSetting
  fields: Field[]
  table: TableJob
}

export default function TableState({ job, answer, fields, table }: TableStateProps) {
  return (
    <div className="mt-2">
      <p className="font-bold">{job.file}</p>
      {job.held && job.table ? (
        <TableLook key={JSON.stringify(job.table.matched)} job={job} look={job.table} fields={fields} isBusy={table.isBusy} onChange={table.change} onBegin={table.begin} onDrop={table.drop} />
      ) : (
        <TableProgress job={job} onDrop={table.drop} />
      )}
      {job.faults > 0 && !job.held && <TableFaults job={job} />}
      {job.state === 'done' && job.table?.outcome && <TableReport job={job} answer={answer} />}
    </div>
  )
}
