/** Names and units of several numbers, words and thresholds of several labels. */
import type { LabelsSetting, NumbersSetting } from '../../api/client'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'

/** Several numbers, in the model's order: what each is called, its unit and decimals. */
export function Numbers({ values, draft }: { values: NumbersSetting['values']; draft: Draft }) {
  const save = (at: number, change: Record<string, unknown>) =>
    // Found by their place: all are named, one is changed.
    draft.save((now) => {
      const known = now.answer.kind === 'numbers' ? now.answer.values : values
      return { answer: { values: known.map(({ name, unit, decimals }, other) => ({ name, unit, decimals, ...(other === at ? change : {}) })) } }
    })
  return (
    <ul className="mt-4">
      {values.map((value, at) => (
        // In the model's order, which never changes.
        <li key={at} className="card-line grid grid-cols-[2rem_2fr_1fr_1fr] items-end gap-4 py-3">
          <span className="pb-1 text-soft">{at + 1}</span>
          <SavedInput label="Name" value={value.name ?? ''} onSave={(name) => save(at, { name })} />
          <SavedInput label="Unit" value={value.unit ?? ''} onSave={(unit) => save(at, { unit })} />
          <SavedInput label="Decimals" inputMode="decimal" value={String(value.decimals ?? 2)} onSave={(text) => save(at, { decimals: text.trim() === '' ? text : Number(text) })} />
        </li>
      ))}
    </ul>
  )
}

/** Several labels: what each is called, and from where on it is said to apply. */
export function Labels({ labels, draft }: { labels: LabelsSetting['labels']; draft: Draft }) {
  const save = (name: string, change: Record<string, unknown>) => draft.save({ answer: { labels: [{ name, ...change }] } })
  const reports = draft.demo.report?.outputs ?? []
  return (
    <ul className="mt-4">
      {labels.map((wording) => {
        const known = reports.find((one) => one.name === wording.label)
        return (
          <li key={wording.name} className="card-line grid grid-cols-[8rem_2fr_1fr_2fr] items-end gap-4 py-3">
            <code className="pb-1 font-sans">{wording.name}</code>
            <SavedInput label="Name" value={wording.label} onSave={(label) => save(wording.name, { label })} />
            <SavedInput
              label="Applies from, of 100"
              inputMode="decimal"
              value={String(Math.round((wording.threshold ?? 0.5) * 100))}
              onSave={(text) => save(wording.name, { threshold: text.trim() === '' ? text : Number((Number(text) / 100).toFixed(2)) })}
            />
            <span className="pb-1 text-[0.93em] text-soft">{typeof known?.right_of_100 === 'number' ? `then right for ${known.right_of_100} of 100 known cases` : ''}</span>
          </li>
        )
      })}
    </ul>
  )
}
