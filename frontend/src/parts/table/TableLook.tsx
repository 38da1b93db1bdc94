/** What was understood of a table, and its first answers: to be put right, and begun. */
import type { Field, JobView, TableChanges, TableLookView } from '../../api/client'
import { plainText, totalText } from './tableWords'
import { FirstAnswers } from './FirstAnswers'

export interface TableLookProps {
  job: JobView
  look: TableLookView
  fields: Field[]
  isBusy: boolean
  onChange: (changes: TableChanges) => void
  onBegin: () => void
  onDrop: () => void
}

export function TableLook({ job, look, fields, isBusy, onChange, onBegin, onDrop }: TableLookProps) {
  const missing = look.missing.length
  return (
    <>
      <p role="status" className="mt-1">
        {missing > 0 ? `${missing === 1 ? 'One field has' : `${missing} fields have`} no column yet. Say which it is.` : look.doubtful.length > 0 ? 'One thing is open.' : 'Each field has its column.'}
      </p>
      {look.notes.map((note) => (
        <p key={note} className="text-soft">
          {plainText(note)}
        </p>
      ))}
      <Doubts look={look} onChange={onChange} />
      <details className="mt-2" open={missing > 0}>
        <summary>Which column belongs to which field</summary>
        <ul className="mt-1 grid max-w-[60rem] gap-x-8 gap-y-1 min-[700px]:grid-cols-2">
          {fields.map((field) => (
            <ColumnChoice key={field.name} field={field} look={look} isBusy={isBusy} onChange={onChange} />
          ))}
        </ul>
      </details>
      {look.preview.length > 0 && <FirstAnswers look={look} />}
      <p className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <button type="button" className="button-primary" disabled={!look.ready || isBusy} onClick={onBegin}>
          {job.total ? job.total_is_estimate ? `Answer all (${totalText(job)})` : `Answer all ${totalText(job)}` : 'Answer all rows'}
        </button>
        <button type="button" className="button-quiet" onClick={onDrop}>
          Take another table
        </button>
      </p>
    </>
  )
}

/** What can be read in two ways: asked, never guessed. */
function Doubts({ look, onChange }: { look: TableLookView; onChange: (changes: TableChanges) => void }) {
  const [first] = look.doubtful
  if (!first) return null
  const isDate = first.about === 'dates'
  const ways: [string, TableChanges][] = isDate
    ? [
        ['The day comes first', { dates: 'day' }],
        ['The month comes first', { dates: 'month' }],
      ]
    : [
        ['1,234.5 (a point before decimals)', { numbers: '1,234.5' }],
        ['1.234,5 (a comma before decimals)', { numbers: '1.234,5' }],
      ]
  return (
    <div className="mt-2">
      <p>
        <span aria-hidden="true">? </span>
        “{first.example}” can be read in two ways. How does the table write {isDate ? 'dates' : 'numbers'}?
      </p>
      <p className="flex flex-wrap gap-x-5">
        {ways.map(([words, changes]) => (
          <button key={words} type="button" className="button-quiet" onClick={() => onChange(changes)}>
            {words}
          </button>
        ))}
      </p>
    </div>
  )
}

interface ColumnChoiceProps {
  field: Field
  look: TableLookView
  isBusy: boolean
  onChange: (changes: TableChanges) => void
}

function ColumnChoice({ field, look, isBusy, onChange }: ColumnChoiceProps) {
  const match = look.matched.find((one) => one.field === field.name)
  const alike = look.alike[field.name] ?? []
  const others = look.columns.filter((column) => column && !alike.includes(column))
  return (
    <li>
      <label className="flex items-baseline gap-2">
        <span className="min-w-[9rem]">{field.label}</span>
        <select className="input-line min-w-0 flex-1" value={match?.column ?? ''} disabled={isBusy} onChange={({ target }) => onChange({ columns: { [field.name]: target.value } })}>
          <option value="">{match ? 'none' : 'not found: choose'}</option>
          {[...alike, ...others].map((column) => (
            <option key={column} value={column}>
              {column}
            </option>
          ))}
        </select>
      </label>
    </li>
  )
}
