/** Boxes: what is found and what each kind of it is called, and from which score on it is shown. */
import type { BoxesSetting } from '../../api/client'
import { InlineMark, markOf } from '../../parts/Mark'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { ToneChoice } from './ToneChoice'

export function BoxesWording({ draft, setting }: { draft: Draft; setting: BoxesSetting }) {
  const save = (name: string, change: Record<string, unknown>) => draft.save({ answer: { labels: [{ name, ...change }] } })
  return (
    <>
      <p className="max-w-[65ch] text-soft">Boxes around what the model finds in a picture.</p>
      <div className="mt-4 grid max-w-2xl grid-cols-3 gap-4">
        <SavedInput label="What is found, in the plural" value={setting.noun ?? ''} placeholder="flaws" onSave={(noun) => draft.save({ answer: { noun } })} />
        <SavedInput label="One of them" value={setting.noun_one ?? ''} placeholder="guessed" onSave={(noun_one) => draft.save({ answer: { noun_one } })} />
        <SavedInput
          label="Shown from a score of, of 100"
          value={String(Math.round(100 * (setting.least_score ?? 0.3)))}
          inputMode="decimal"
          onSave={(text) => draft.save({ answer: { least_score: Number((Number(text) / 100).toFixed(4)) } })}
        />
      </div>
      <ul className="mt-4">
        {setting.labels.map((wording, index) => (
          <li key={wording.name} className="card-line grid grid-cols-[8rem_1fr_1fr_1fr] items-end gap-4 py-2">
            <span className="flex items-baseline gap-2">
              <InlineMark {...markOf(index, { tone: wording.tone ?? '' })} />
              <code className="font-sans">{wording.name}</code>
            </span>
            <SavedInput label="One of them" value={wording.label} onSave={(label) => save(wording.name, { label })} />
            <SavedInput label="Several" value={wording.label_many ?? ''} placeholder="guessed" onSave={(label_many) => save(wording.name, { label_many })} />
            <ToneChoice tone={wording.tone ?? ''} onChange={(tone) => void save(wording.name, { tone })} />
          </li>
        ))}
      </ul>
    </>
  )
}
