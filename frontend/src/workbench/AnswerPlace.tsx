/** Answer: what the classes are called, or the number's name and unit. */
import type { ClassWording, DemoState, LabelsSetting, NumbersSetting } from '../api/client'
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
          <div className="mt-4 grid max-w-lg grid-cols-2 gap-4">
            <SavedInput label="What is counted, in the plural" value={answer.noun ?? ''} placeholder="pieces" onSave={(noun) => draft.save({ answer: { noun } })} />
            <SavedInput label="One of them" value={answer.noun_one ?? ''} placeholder="guessed" onSave={(noun_one) => draft.save({ answer: { noun_one } })} />
          </div>
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
          <label className="block">
            <span className="block text-soft">Which way is good news?</span>
            <select className="w-full border-b border-edge bg-paper py-0.5" value={answer.better ?? ''} onChange={(event) => void draft.save({ answer: { better: event.target.value } })}>
              <option value="">neither</option>
              <option value="low">the lower the better</option>
              <option value="high">the higher the better</option>
            </select>
          </label>
        </div>
      )}
      {answer.kind === 'numbers' && <Numbers values={answer.values} draft={draft} />}
      {answer.kind === 'labels' && <Labels labels={answer.labels} draft={draft} />}
      {(answer.kind === 'class' || answer.kind === 'number') && <Coverage coverage={answer.coverage ?? 0.9} draft={draft} />}
      <PageParts draft={draft} />
    </section>
  )
}

/** Several numbers, in the model's order: what each is called, its unit and decimals. */
function Numbers({ values, draft }: { values: NumbersSetting['values']; draft: Draft }) {
  const save = (at: number, change: Record<string, unknown>) =>
    // Found by their place: all are named, one is changed.
    draft.save({ answer: { values: values.map(({ name, unit, decimals }, other) => ({ name, unit, decimals, ...(other === at ? change : {}) })) } })
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
function Labels({ labels, draft }: { labels: LabelsSetting['labels']; draft: Draft }) {
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

/** How often intervals and sets of classes are to be right. */
function Coverage({ coverage, draft }: { coverage: number; draft: Draft }) {
  const { evidence } = draft.demo
  return (
    <div className="mt-6">
      <SavedInput
        className="max-w-xs"
        label="How often the answer’s range should hold the truth, of 100 times"
        value={String(Math.round(coverage * 100))}
        inputMode="decimal"
        onSave={(text) => draft.save({ answer: { coverage: Number(text) / 100 } })}
      />
      <p className="mt-1 max-w-[65ch] text-[0.93em] text-soft">
        {evidence ? `Counted from ${evidence.n_known} known cases.` : 'Shown once the demo has known cases: rows with their outcome that the model was not trained on.'}
      </p>
    </div>
  )
}

const PARTS: { name: keyof NonNullable<DemoState['parts']>; label: string; note?: string }[] = [
  { name: 'curves', label: 'Curves under the fields' },
  { name: 'pushes', label: 'Contributions: what each value adds or takes off' },
  { name: 'changes', label: 'What would change it' },
  { name: 'similar', label: 'Cases like this one', note: 'shows visitors rows of your reference table' },
  { name: 'among', label: 'The case among those of your table', note: 'shows visitors values of your reference table' },
  { name: 'compare', label: 'Keeping answers to compare' },
  { name: 'overall', label: 'What matters overall' },
  { name: 'outcomes', label: '“Was this right?”', note: 'keeps yes or no, with the answer and the time' },
  { name: 'truth', label: 'There also: what it really was', note: 'keeps that too' },
]

/** Which parts of the page visitors see. */
function PageParts({ draft }: { draft: Draft }) {
  const { parts, background_rows, n_reference_rows } = draft.demo
  return (
    <fieldset className="mt-6">
      <legend className="font-bold">On the page</legend>
      <ul className="mt-1">
        {PARTS.map(({ name, label, note }) => (
          <li key={name}>
            <label className="flex min-h-7 items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-(--glass)"
                checked={parts?.[name] ?? name !== 'truth'}
                onChange={(event) => void draft.save({ parts: { [name]: event.target.checked } })}
              />
              {label}
              {note && <span className="text-[0.93em] text-soft">{note}</span>}
            </label>
          </li>
        ))}
      </ul>
      <SavedInput
        className="mt-3 max-w-xs"
        label={`Reference rows that contributions are counted against, of ${n_reference_rows}`}
        value={String(background_rows)}
        inputMode="decimal"
        onSave={(text) => draft.save({ background_rows: (text.trim() === '' ? text : Number(text)) as number })}
      />
    </fieldset>
  )
}

function ClassRow({ wording, index, draft }: { wording: ClassWording; index: number; draft: Draft }) {
  const save = (changes: Record<string, string>) => draft.save({ answer: { classes: [{ name: wording.name, ...changes }] } })
  return (
    <li className="card-line grid grid-cols-[7rem_1fr_1fr_1fr_1fr] items-end gap-4 py-3">
      <span className="flex items-baseline gap-2">
        <InlineMark {...markOf(index, wording)} />
        <code className="font-sans">{wording.name}</code>
      </span>
      <SavedInput label="Under the marks" value={wording.label} onSave={(label) => save({ label })} />
      <SavedInput label="The same of one" value={wording.label_one ?? ''} placeholder="guessed" onSave={(label_one) => save({ label_one })} />
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
