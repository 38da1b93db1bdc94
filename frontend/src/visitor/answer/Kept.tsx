/** Answers that were kept, beside the one now: what changed in, and what changed out. */
import { memo } from 'react'
import type { Answer, Field, Inputs, Page } from '../../api/client'
import { valueText } from '../../domain/format'
import { answerText } from '../../domain/answerText'
import { isSeen } from '../../domain/kinds'
import { SmallPicture } from '../pictures/SmallPicture'
import { Framed } from '../../parts/Framed'

export interface KeptAnswer {
  /** Counted from 1, as the page names it. */
  number: number
  inputs: Inputs
  answer: Answer
  /** The version that gave it; null for a draft's. */
  release: number | null
}

export interface KeptProps {
  page: Page
  kept: KeptAnswer[]
  /** What stands on the page now; null while there is no answer. */
  now: Omit<KeptAnswer, 'number'> | null
  onDrop: (number: number) => void
  onTakeUp: (inputs: Inputs) => void
}

export const Kept = memo(function Kept({ page, kept, now, onDrop, onTakeUp }: KeptProps) {
  if (kept.length === 0) return null
  const columns = [...(now ? [{ number: 0, ...now }] : []), ...kept]
  const first = columns[0]
  if (!first) return null
  const differing = page.fields.filter((field) => columns.some((one) => one.inputs[field.name] !== first.inputs[field.name]))
  const same = page.fields.length - differing.length
  return (
    <section className="card-line mt-6 pt-4" aria-labelledby="kept-heading" tabIndex={-1}>
      <h3 id="kept-heading" className="font-bold">
        Kept answers, side by side
      </h3>
      <Framed label="Kept answers, as a table">
        <table className="mt-2 text-left text-[0.94em]">
          <thead>
            <tr>
              <td />
              {columns.map((one) => (
                <th key={one.number} scope="col" className="py-1 pr-5 align-bottom">
                  {one.number === 0 ? 'Now' : `Kept ${one.number}`}
                  {/* A reload may have brought a newer version: answers of two are told apart. */}
                  {one.release !== first.release && <span className="block font-normal text-caution">of version {one.release}</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr className="border-t border-line">
              <th scope="row" className="py-1 pr-5 font-normal text-soft">
                Answer
              </th>
              {columns.map((one) => (
                <td key={one.number} className="py-1 pr-5 font-bold">
                  {answerText(page, one.answer)}
                </td>
              ))}
            </tr>
            {differing.map((field) => (
              <DifferingRow key={field.name} field={field} columns={columns} />
            ))}
            <tr className="print:hidden">
              <td />
              {columns.map((one) => (
                <td key={one.number} className="py-1 pr-5 whitespace-nowrap">
                  {one.number > 0 && (
                    <>
                      <button type="button" className="button-quiet mr-3" aria-label={`Go back to kept ${one.number}`} onClick={() => onTakeUp(one.inputs)}>
                        Go back
                      </button>
                      <button type="button" className="button-quiet" aria-label={`Drop kept ${one.number}`} onClick={() => onDrop(one.number)}>
                        Drop
                      </button>
                    </>
                  )}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </Framed>
      <p className="text-[0.88em] text-soft">
        {differing.length === 0 ? 'All values are the same.' : same > 0 ? `The other ${same === 1 ? 'value is' : `${same} values are`} the same.` : ''}
      </p>
    </section>
  )
})

function DifferingRow({ field, columns }: { field: Field; columns: { number: number; inputs: Inputs }[] }) {
  const now = columns[0]?.inputs[field.name]
  return (
    <tr className="border-t border-line">
      <th scope="row" className="py-1 pr-5 font-normal text-soft">
        {field.label}
      </th>
      {columns.map((one, at) => {
        const differs = at > 0 && one.inputs[field.name] !== now
        return (
          <td key={one.number} className={`py-1 pr-5 ${differs ? 'font-bold' : ''}`}>
            {differs && (
              <span className="text-caution">
                <span aria-hidden="true">≠ </span>
                <span className="sr-only">different: </span>
              </span>
            )}
            {isSeen(field) ? <SmallPicture value={one.inputs[field.name] ?? null} side={64} name={`${field.label} of ${one.number === 0 ? 'now' : `kept ${one.number}`}`} /> : valueText(field, one.inputs[field.name])}
          </td>
        )
      })}
    </tr>
  )
}
