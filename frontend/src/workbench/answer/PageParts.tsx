/** Which parts of the page visitors see, and when it asks. */
import { useQueryClient } from '@tanstack/react-query'
import type { DemoState } from '../../api/client'
import { demoKey } from '../bench/queries'
import { WorkedOut } from '../bench/WorkedOut'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { groupedText } from '../../domain/format'

const PARTS: { name: keyof NonNullable<DemoState['parts']>; label: string; note?: string }[] = [
  { name: 'curves', label: 'Curves under the fields' },
  { name: 'contributions', label: 'Contributions: what each value adds or takes off' },
  { name: 'changes', label: 'What would change it' },
  { name: 'similar', label: 'Cases like this one', note: 'shows visitors rows of your reference table' },
  { name: 'among', label: 'The case among those of your table', note: 'shows visitors values of your reference table' },
  { name: 'compare', label: 'Keeping answers to compare' },
  { name: 'overall', label: 'What matters overall' },
  { name: 'report', label: 'The report on known cases, in full', note: 'shows visitors rows of your known cases' },
  { name: 'outcomes', label: '“Was this right?”', note: 'keeps yes or no, with the answer and the time' },
  { name: 'truth', label: 'There also: what it really was', note: 'keeps that too' },
]

/** The server goes by so many at the most, unless it is told to take its time. */
const ROWS_AT_A_GLANCE = 400

/** What lies in a picture or is written is not explained, and held against no table. */
const IN_PICTURE = new Set(['compare', 'outcomes'])
const OFF_AT_FIRST = new Set(['truth', 'report'])

export function PageParts({ draft }: { draft: Draft }) {
  const { parts, background_rows, n_reference_rows, answer, slug } = draft.demo
  const queries = useQueryClient()
  const showAll = () => {
    void queries.invalidateQueries({ queryKey: demoKey(slug) })
    draft.onChanged()
  }
  const isInPicture = answer.kind === 'boxes' || answer.kind === 'picture' || answer.kind === 'mask' || answer.kind === 'text' || answer.kind === 'table'
  return (
    <fieldset data-settings="parts" className="mt-6">
      <legend className="font-bold">On the page</legend>
      <ul className="mt-1">
        {PARTS.filter(({ name }) => !isInPicture || IN_PICTURE.has(name)).map(({ name, label, note }) => (
          <li key={name}>
            <label className="flex min-h-7 items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-(--glass)"
                checked={parts?.[name] ?? !OFF_AT_FIRST.has(name)}
                onChange={(event) => void draft.save({ parts: { [name]: event.target.checked } })}
              />
              {label}
              {note && <span className="text-[0.93em] text-soft">{note}</span>}
            </label>
          </li>
        ))}
      </ul>
      <label className="mt-3 block max-w-md">
        <span className="block text-soft">When the page asks for an answer</span>
        <select className="w-full border-b border-edge bg-paper py-0.5" value={draft.demo.asks ?? 'auto'} onChange={(event) => void draft.save({ asks: event.target.value as 'auto' })}>
          <option value="auto">at each change; by a button while answers take more than a second</option>
          <option value="live">at each change</option>
          <option value="button">when a visitor presses a button</option>
        </select>
      </label>
      {!isInPicture && n_reference_rows > ROWS_AT_A_GLANCE && (parts?.overall ?? true) && (
        <div className="mt-3">
          <p className="max-w-[65ch] text-soft">
            {draft.demo.overall_by_all ? 'What matters overall was worked out by all rows that are kept of your table.' : `What matters overall is worked out by up to ${ROWS_AT_A_GLANCE} rows of your table, while visitors look on.`}
          </p>
          {!draft.demo.overall_by_all && <WorkedOut slug={slug} kind="importance" isDraft label="Work it out by all that are kept" onDone={showAll} />}
        </div>
      )}
      {!isInPicture && (
        <SavedInput
          className="mt-3 max-w-xs"
          label={`Reference rows that contributions are counted against, of ${groupedText(n_reference_rows)}`}
          value={String(background_rows)}
          inputMode="decimal"
          onSave={(text) => draft.save({ background_rows: (text.trim() === '' ? text : Number(text)) as number })}
        />
      )}
    </fieldset>
  )
}
