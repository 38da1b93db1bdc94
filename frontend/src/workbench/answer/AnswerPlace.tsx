/** Answer: what the classes are called, or the number's name and unit. */
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { Labels, Numbers } from './SeveralWordings'
import { Bands } from './Bands'
import { BoxesWording } from './BoxesWording'
import { ClassRow } from './ClassRow'
import { MaskWording, PictureWording } from './MadeWording'
import { PageParts } from './PageParts'
import { ReadingSheet } from './ReadingSheet'
import { Threshold } from './Threshold'
import { groupedText } from '../../domain/format'

export function AnswerPlace({ draft }: { draft: Draft }) {
  const { answer } = draft.demo
  return (
    <section aria-labelledby="answer-place-heading">
      <h2 id="answer-place-heading" data-settings="answer" className="text-[1.25em] font-bold">
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
          {answer.classes.length === 2 && answer.gives_probabilities && <Threshold draft={draft} setting={answer} />}
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
      {answer.kind === 'number' && <Bands draft={draft} setting={answer} />}
      {answer.kind === 'numbers' && <Numbers values={answer.values} draft={draft} />}
      {answer.kind === 'labels' && <Labels labels={answer.labels} draft={draft} />}
      {(answer.kind === 'text' || answer.kind === 'table') && (
        <div className="mt-4 max-w-md">
          <SavedInput label={answer.kind === 'text' ? 'What the text is' : 'What the table lists'} value={answer.name ?? ''} onSave={(name) => draft.save({ answer: { name } })} />
        </div>
      )}
      {answer.kind === 'picture' && <PictureWording draft={draft} setting={answer} />}
      {answer.kind === 'mask' && <MaskWording draft={draft} setting={answer} />}
      {answer.kind === 'boxes' && (
        <>
          <BoxesWording draft={draft} setting={answer} />
          <ReadingSheet draft={draft} setting={answer} />
        </>
      )}
      {(answer.kind === 'class' || answer.kind === 'number') && <Coverage coverage={answer.coverage ?? 0.9} draft={draft} />}
      <PageParts draft={draft} />
    </section>
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
        {evidence ? `Counted from ${groupedText(evidence.n_known)} known cases.` : 'Shown once the demo has known cases: rows with their outcome that the model was not trained on.'}
      </p>
    </div>
  )
}
