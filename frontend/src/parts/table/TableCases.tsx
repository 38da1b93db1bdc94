/** A whole table at once: dropped, looked at, begun, taken away. */
import { lazy, Suspense, useState, type DragEvent } from 'react'
import type { AnswerSetting, Field } from '../../api/client'
import { Faults } from '../Faults'
import { ChooseTable } from './ChooseTable'
import { useTableJob } from './useTableJob'

/** Most visitors never bring a table: what shows one comes with it. */
const TableState = lazy(() => import('./TableState'))

export interface TableCasesProps {
  slug: string
  isDraft: boolean
  answer: AnswerSetting
  fields: Field[]
  /** How many rows are answered at most; null for any number. */
  mostRows: number | null
}

export function TableCases({ slug, isDraft, answer, fields, mostRows }: TableCasesProps) {
  const table = useTableJob(slug, isDraft)
  const { job, sent } = table
  const [isOver, setIsOver] = useState(false)
  const drop = (event: DragEvent) => {
    event.preventDefault()
    setIsOver(false)
    const [file] = event.dataTransfer.files
    if (file) table.send(file)
  }
  return (
    <div
      data-testid="table-cases"
      className={isOver ? 'outline-2 outline-offset-8 outline-glass' : ''}
      onDragOver={(event) => (event.preventDefault(), setIsOver(true))}
      onDragLeave={() => setIsOver(false)}
      onDrop={drop}
    >
      {!job && <ChooseTable onFile={table.send} mostRows={mostRows} isBusy={table.isBusy} />}
      <p role="status" className="mt-2 text-soft empty:hidden">
        {sent === null ? '' : sent < 1 ? `Sending: ${Math.round(sent * 100)} of 100.` : 'Looking at the table…'}
      </p>
      <Faults error={table.error} />
      {job && (
        <Suspense>
          <TableState job={job} answer={answer} fields={fields} table={table} />
        </Suspense>
      )}
    </div>
  )
}
