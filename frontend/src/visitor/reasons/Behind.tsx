/** What stands behind an answer: why, what would change it, what it is like, and what was asked. */
import { memo } from 'react'
import { valueText } from '../../domain/format'
import type { Explanation, Field, Inputs, InputValue, Note, Page } from '../../api/client'
import { isPicture, type Where } from '../../api/picture'
import { AmongCases } from './AmongCases'
import type { Answered } from '../case/answerLine'
import { isSeen } from '../../domain/kinds'
import { Contributions } from './Contributions'
import { SimilarCases } from './SimilarCases'
import { BoxesOverPicture } from '../pictures/BoxesOverPicture'
import { MaskOnPaper } from '../pictures/MadeOverPicture'
import { SmallPicture } from '../pictures/SmallPicture'
import { WhereLooked } from '../pictures/WhereLooked'
import { WouldChange } from './WouldChange'

/** So many values are kept together on paper; more stand closer, and may go on on the next sheet. */
const MOST_ON_A_SHEET = 24

export interface BehindProps {
  page: Page
  isDraft: boolean
  state: Answered
  explained: Answered | null
  /** Whether what explains the answer is still about values from before. */
  isWhyLate: boolean
  /** Whether the first of it is still on its way. */
  isWhyComing: boolean
  where: Where[]
  /** Why the model did not say where it looked, or no sharper. */
  whyNotWhere: string | null
  onTry: (inputs: Inputs) => void
}

/** The same while nothing of it changed: a hand that drags must not wait for what stands below. */
export default memo(function Behind({ page, isDraft, state, explained, isWhyLate, isWhyComing, where, whyNotWhere, onTry }: BehindProps) {
  const explanation = explained?.answer.explanation ?? null
  const { parts } = page
  // With one field there is nothing to set against each other.
  const hasSeveral = page.fields.length > 1
  const canChange = page.fields.some((field) => field.kind !== 'text' && !isSeen(field) && field.changeable)
  const of = explanation?.of ?? explained?.answer.curves?.[0]?.of
  return (
    <>
      {where.map((one) => (
        <WhereLooked key={one.field} page={page} answer={state.answer.answer} where={one} />
      ))}
      {whyNotWhere !== null && (
        <p className="card-line mt-6 pt-4 text-[0.92em] text-soft" role="status">
          {whyNotWhere}
        </p>
      )}
      {hasSeveral && explanation && explained && (
        <Contributions page={page} explanation={explanation} inputs={explained.inputs} answer={explained.answer.answer} isBusy={explained.inputs !== state.inputs} isOld={isWhyLate && !state.isHeld && state.delay === undefined} />
      )}
      {explained && !explanation && parts.contributions && <NotExplained notes={explained.answer.notes} />}
      {/* What stands below waits for what stands above: nobody reads a line that is about to move. Paper has it all. */}
      <div className={`below ${isWhyComing ? 'hidden print:contents' : 'contents'}`}>
        {parts.changes && canChange && <WouldChange page={page} isDraft={isDraft} state={state} onTry={onTry} />}
        {explained?.answer.similar && <SimilarCases page={page} inputs={explained.inputs} cases={explained.answer.similar} />}
        {parts.among && explained && of && (
          <AmongCases page={page} isDraft={isDraft} inputs={explained.inputs} mine={explanation && endOf(explanation)} strongest={explanation?.contributions.map((one) => one.field) ?? []} of={of} />
        )}
        <Echo page={page} inputs={state.inputs} where={where} />
      </div>
    </>
  )
})

/** What baseline and contributions add up to. */
function endOf(explanation: Explanation): number {
  return explanation.contributions.reduce((sum, one) => sum + one.contribution, explanation.baseline)
}

/** Why an answer comes without its explanation. */
function NotExplained({ notes }: { notes: Note[] }) {
  return notes
    .filter((note) => note.code === 'not-explained')
    .map((note) => (
      <p key={note.message} className="card-line mt-6 pt-4 text-[0.92em] text-soft">
        {note.message}
      </p>
    ))
}

/** What was asked, so that a printed page makes sense on its own; there it stands before the reasons. */
function Echo({ page, inputs, where }: { page: Page; inputs: Inputs; where: Where[] }) {
  return (
    <section className={`mt-6 print:-order-1 ${page.fields.length > MOST_ON_A_SHEET ? 'echo-long' : ''}`}>
      <h3 className="font-bold">What you asked about</h3>
      <dl className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(min(15rem,100%),1fr))] gap-x-8 text-[0.9em]" data-testid="echo">
        {page.fields.map((field) => {
          const value = inputs[field.name]
          return (
            <div key={field.name} className="echo-row card-line flex justify-between gap-3 py-1">
              <dt className="text-soft">{field.label}</dt>
              <dd className="min-w-0 text-right break-words">
                {isSeen(field) ? <SmallPicture value={value ?? null} side={64} name={valueText(field, value)} looked={lookedAt(field, where)} over={<OnPaper value={value} />} /> : valueText(field, value)}
              </dd>
            </div>
          )
        })}
      </dl>
    </section>
  )
}

/** What the model found in a picture, where the list of it is printed too. */
function OnPaper({ value }: { value: InputValue | undefined }) {
  return isPicture(value) ? (
    <>
      <BoxesOverPicture picture={value} onPaper />
      <MaskOnPaper />
    </>
  ) : null
}

function lookedAt(field: Field, where: Where[]): { field: Field; where: Where } | null {
  const found = where.find((one) => one.field === field.name)
  return found ? { field, where: found } : null
}
