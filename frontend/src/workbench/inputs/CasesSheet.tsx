/** Ready cases that visitors can press: from what the page shows now, or from rows of the reference table. */
import { useContext, useState } from 'react'
import { ApiError, type DemoState, type Inputs } from '../../api/client'
import { valueText } from '../../domain/format'
import { isSeen } from '../../domain/kinds'
import { Problem } from '../bench/Problem'
import { useRows } from '../bench/queries'
import { SavedInput } from '../bench/SavedInput'
import { ShownCase } from './shownCase'
import type { Draft } from '../bench/useDraft'

type Sample = NonNullable<DemoState['samples']>[number]

const MOST_CASES = 20
const ROWS_SHOWN = 8
/** Of a row's values so many are shown beside its outcome. */
const VALUES_SHOWN = 6

export function CasesSheet({ draft }: { draft: Draft }) {
  const shown = useContext(ShownCase)
  const [problem, setProblem] = useState<unknown>(null)
  const { demo } = draft
  const cases = demo.samples ?? []
  if (demo.fields.some(isSeen)) return null
  const changed = (next: (now: Sample[]) => Sample[]) => draft.save((now) => ({ samples: next(now.samples ?? []) }))
  const save = (next: (now: Sample[]) => Sample[]) =>
    changed(next).then(
      () => setProblem(null),
      (error: unknown) => setProblem(error instanceof ApiError ? error : new Error('Could not be saved. Try again.')),
    )
  const add = (inputs: Inputs, title: string) => void save((now) => [...now, { title, inputs } as Sample])
  const isFull = cases.length >= MOST_CASES
  return (
    <section className="card-line mt-6 pt-4" aria-labelledby="cases-heading" data-testid="cases">
      <h3 id="cases-heading" className="font-bold">
        Ready cases
      </h3>
      <p className="max-w-[65ch] text-soft">Cases that visitors can press to see the demo work at once. They are public with the page.</p>
      <ol className="mt-2">
        {cases.map((one, at) => (
          <li key={`${at} ${one.title}`} className="card-line flex flex-wrap items-end gap-x-5 py-2">
            <SavedInput
              className="min-w-52 flex-1"
              label={`Name of case ${at + 1}`}
              isLabelHidden
              value={one.title}
              onSave={(title) => changed((now) => now.map((other, place) => (place === at ? { ...other, title } : other)))}
            />
            <button type="button" className="button-quiet" disabled={at === 0} onClick={() => void save((now) => [...now.slice(at, at + 1), ...now.filter((_, place) => place !== at)])}>
              To the top<span className="sr-only"> for {one.title}</span>
            </button>
            <button type="button" className="button-quiet" onClick={() => void save((now) => now.filter((_, place) => place !== at))}>
              Take away<span className="sr-only"> {one.title}</span>
            </button>
          </li>
        ))}
      </ol>
      <p className="mt-2">
        <button type="button" className="button-plain" disabled={!shown || isFull} onClick={() => shown && add(shown, `Case ${cases.length + 1}`)}>
          Take the case the page shows now
        </button>
        {isFull && <span className="ml-4 text-soft">{MOST_CASES} is the most a page has room for.</span>}
      </p>
      <Problem error={problem} />
      {demo.n_reference_rows > 0 && <Rows demo={demo} isFull={isFull} onTake={add} />}
    </section>
  )
}

/** Rows of the reference table, a few at a time. */
function Rows({ demo, isFull, onTake }: { demo: DemoState; isFull: boolean; onTake: (inputs: Inputs, title: string) => void }) {
  const [isOpen, setIsOpen] = useState(false)
  const [offset, setOffset] = useState(0)
  const rows = useRows(demo.slug, offset, ROWS_SHOWN, isOpen)
  const fields = demo.fields.slice(0, VALUES_SHOWN)
  return (
    <details className="mt-2" onToggle={(event) => setIsOpen(event.currentTarget.open)}>
      <summary className="button-quiet w-fit">From the reference table</summary>
      <Problem error={rows.error} />
      {rows.data && (
        <>
          <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Rows of the reference table">
            <table className="mt-1 text-left whitespace-nowrap">
              <thead>
                <tr className="text-soft">
                  <td />
                  {demo.target && <th className="pr-4 font-normal">{demo.target}</th>}
                  {fields.map((field) => (
                    <th key={field.name} className="pr-4 font-normal">
                      {field.label}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {rows.data.rows.map((row) => {
                  const outcome = row.outcome === null || row.outcome === undefined ? '' : String(row.outcome)
                  return (
                    <tr key={row.row} className="border-t border-line">
                      <td className="py-0.5 pr-4">
                        <button type="button" className="button-quiet" disabled={isFull} onClick={() => onTake(row.inputs as Inputs, outcome ? `Row ${row.row + 1}: ${outcome}` : `Row ${row.row + 1}`)}>
                          Take<span className="sr-only"> row {row.row + 1}</span>
                        </button>
                      </td>
                      {demo.target && <td className="pr-4 font-bold">{outcome}</td>}
                      {fields.map((field) => (
                        <td key={field.name} className="pr-4">
                          {valueText(field, (row.inputs as Inputs)[field.name])}
                        </td>
                      ))}
                    </tr>
                  )
                })}
              </tbody>
            </table>
          </div>
          <p className="mt-1 flex gap-5">
            <button type="button" className="button-quiet" disabled={offset === 0} onClick={() => setOffset(Math.max(0, offset - ROWS_SHOWN))}>
              Those before
            </button>
            <button type="button" className="button-quiet" disabled={offset + ROWS_SHOWN >= rows.data.total} onClick={() => setOffset(offset + ROWS_SHOWN)}>
              Others
            </button>
          </p>
        </>
      )}
    </details>
  )
}
