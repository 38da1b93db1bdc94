/** The first rows of the result, the answers in front. */
import type { TableLookView } from '../../api/client'
import { cellText } from './tableWords'

export function FirstAnswers({ look }: { look: TableLookView }) {
  const own = look.columns.length
  const answers = look.headings.slice(own)
  const hasNotes = look.preview.some((row) => row[row.length - 1])
  const shown = hasNotes ? answers.length : answers.length - 1
  return (
    <div className="mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="First answers">
      <table className="text-[0.92em]">
        <caption className="text-left font-bold">First answers</caption>
        <thead>
          <tr>
            {[...answers.slice(0, shown), ...look.columns].map((heading, at) => (
              <th key={at} scope="col" className={`border-b border-line py-1 pr-5 text-left align-bottom font-normal ${at < shown ? 'text-ink' : 'text-soft'}`}>
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {look.preview.map((row, at) => (
            <tr key={at}>
              {[...row.slice(own, own + shown), ...row.slice(0, own)].map((cell, place) => (
                <td key={place} className={`border-b border-line py-1 pr-5 align-top tabular-nums ${place < shown ? '' : 'text-soft'} ${cell.length > 24 ? 'min-w-[16rem]' : 'whitespace-nowrap'}`}>
                  {place === shown - 1 && hasNotes ? cell : cellText(cell)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
