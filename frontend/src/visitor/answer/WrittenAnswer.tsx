/** An answer that is written: a text as it is, or a table. */
import type { ReactNode } from 'react'
import type { Answer } from '../../api/client'
import { csvOf } from '../../domain/csv'
import { numberText } from '../../domain/format'

interface WrittenProps<Kind extends 'text' | 'table'> {
  name: string
  answer: Extract<Answer, { kind: Kind }>
  /** What must be read before it is. */
  caution: ReactNode
}

export function TextAnswer({ name, answer, caution }: WrittenProps<'text'>) {
  return (
    <>
      <h2 id="answer-heading" className="text-[1.25em] font-bold">
        {name}
      </h2>
      {caution}
      <p className="mt-2 max-w-[65ch] text-[1.06em] whitespace-pre-wrap [overflow-wrap:anywhere]">{answer.text}</p>
      {answer.text.trim() === '' && <p className="text-soft">The answer is an empty text.</p>}
    </>
  )
}

export function TableAnswer({ name, answer, caution }: WrittenProps<'table'>) {
  const { columns, rows } = answer
  const isOfNumbers = columns.map((_, at) => rows.every((row) => row[at] === null || typeof row[at] === 'number'))
  return (
    <>
      <h2 id="answer-heading" className="text-[1.25em] font-bold">
        {name}
      </h2>
      {caution}
      {rows.length === 0 ? (
        <p className="mt-2 text-soft">The answer is a table without rows.</p>
      ) : (
        <>
          <div className="mt-2 max-h-[32rem] overflow-auto" tabIndex={0} role="region" aria-label={`${name}, as a table`}>
            <table className="text-left">
              <thead>
                <tr>
                  {columns.map((column, at) => (
                    <th key={at} scope="col" className={`py-1 pr-6 font-bold ${isOfNumbers[at] ? 'text-right' : ''}`}>
                      {column}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {rows.map((row, index) => (
                  <tr key={index} className="border-t border-line align-baseline">
                    {row.map((cell, at) => (
                      <td key={at} className={`py-1 pr-6 ${isOfNumbers[at] ? 'text-right tabular-nums' : ''}`}>
                        {cellText(cell)}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <p className="mt-2">
            <a className="button-quiet" href={`data:text/csv;charset=utf-8,${encodeURIComponent(csvOf(columns, rows))}`} download={`${name}.csv`}>
              Save as CSV
            </a>
          </p>
        </>
      )}
    </>
  )
}

function cellText(cell: string | number | boolean | null): string {
  if (cell === null) return '–'
  if (typeof cell === 'boolean') return cell ? 'yes' : 'no'
  return typeof cell === 'number' ? numberText(cell) : cell
}
