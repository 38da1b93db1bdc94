/** Where a table comes in: chosen, or dropped on what is around this. */
import { useId } from 'react'
import { groupedText } from '../../domain/format'

const TABLES = '.csv,.tsv,.txt,.xlsx,.parquet,text/csv'

export interface ChooseTableProps {
  onFile: (file: File) => void
  /** How many rows are answered at most; null for any number. */
  mostRows: number | null
  isBusy: boolean
}

export function ChooseTable({ onFile, mostRows, isBusy }: ChooseTableProps) {
  const id = useId()
  return (
    <p className="mt-1 max-w-[70ch]">
      <label htmlFor={id} className={`button-quiet cursor-pointer ${isBusy ? 'pointer-events-none opacity-60' : ''}`}>
        Choose a table
        <input id={id} type="file" accept={TABLES} className="sr-only" disabled={isBusy} onChange={({ target }) => (target.files?.[0] && onFile(target.files[0]), (target.value = ''))} />
      </label>{' '}
      or drop it here: CSV, a spreadsheet or Parquet, a row a case, a column a field.
      {mostRows !== null && <span className="text-soft"> Up to {groupedText(mostRows)} rows. You see what was understood, and the first answers, before all of it begins.</span>}
    </p>
  )
}
