/** Answer: what the classes are called, or the number's name and unit. */
import type { ClassWording } from '../api/client'
import { InlineMark, markOf } from '../parts/Mark'
import { SavedInput } from './SavedInput'
import type { Draft } from './useDraft'

const TONES = [
  { value: '', label: 'neither good nor bad' },
  { value: 'calm', label: 'good news' },
  { value: 'caution', label: 'take care' },
  { value: 'alert', label: 'bad news' },
] as const

export function AnswerPlace({ draft }: { draft: Draft }) {
  const { answer } = draft.demo
  return (
    <section aria-labelledby="answer-place-heading">
      <h2 id="answer-place-heading" className="text-[1.25em] font-bold">
        Answer
      </h2>
      {answer.kind === 'class' && (
        <>
          <p className="max-w-[65ch] text-soft">One of {answer.classes.length} classes, in the model’s order.</p>
          <SavedInput
            className="mt-4 max-w-xs"
            label="What is counted, in the plural"
            value={answer.noun ?? ''}
            placeholder="pieces"
            onSave={(noun) => draft.save({ answer: { noun } })}
          />
          <ul className="mt-4">
            {answer.classes.map((wording, index) => (
              <ClassRow key={wording.name} wording={wording} index={index} draft={draft} />
            ))}
          </ul>
        </>
      )}
      {answer.kind === 'number' && (
        <div className="mt-4 grid grid-cols-3 gap-4">
          <SavedInput label="Name" value={answer.name ?? ''} onSave={(name) => draft.save({ answer: { name } })} />
          <SavedInput label="Unit" value={answer.unit ?? ''} onSave={(unit) => draft.save({ answer: { unit } })} />
          <SavedInput
            label="Decimals"
            value={String(answer.decimals ?? '')}
            inputMode="decimal"
            onSave={(text) => draft.save({ answer: { decimals: (text.trim() === '' ? text : Number(text)) as number } })}
          />
        </div>
      )}
      {answer.kind === 'numbers' && <p className="mt-4 text-soft">{answer.values.length} numbers.</p>}
      {answer.kind === 'labels' && (
        <ul className="mt-4">
          {answer.labels.map((wording) => (
            <li key={wording.name} className="card-line py-3">
              <SavedInput
                label={wording.name}
                value={wording.label}
                onSave={(label) => draft.save({ answer: { labels: [{ name: wording.name, label }] } })}
              />
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

function ClassRow({ wording, index, draft }: { wording: ClassWording; index: number; draft: Draft }) {
  const save = (changes: Record<string, string>) => draft.save({ answer: { classes: [{ name: wording.name, ...changes }] } })
  return (
    <li className="card-line grid grid-cols-[8rem_1fr_1fr_1fr] items-end gap-4 py-3">
      <span className="flex items-baseline gap-2">
        <InlineMark {...markOf(index, wording)} />
        <code className="font-sans">{wording.name}</code>
      </span>
      <SavedInput label="Under the marks" value={wording.label} onSave={(label) => save({ label })} />
      <SavedInput label="As the answer" value={wording.headline} onSave={(headline) => save({ headline })} />
      <label className="block">
        <span className="block text-soft">Is it good news?</span>
        <select className="w-full border-b border-edge bg-paper py-0.5" value={wording.tone ?? ''} onChange={(event) => void save({ tone: event.target.value })}>
          {TONES.map((tone) => (
            <option key={tone.value} value={tone.value}>
              {tone.label}
            </option>
          ))}
        </select>
      </label>
    </li>
  )
}
