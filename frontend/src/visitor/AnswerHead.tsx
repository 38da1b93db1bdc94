/** Headline, figures and marks, or why there is no answer and how one comes. */
import type { ReactNode } from 'react'
import type { Answer, FieldProblem, Inputs, Note, Page } from '../api/client'
import type { Answered, AnswerState } from './answerLine'
import { isSeen } from './beside'
import { ClassAnswer } from './ClassAnswer'
import { Invitation } from './Invitation'
import { NumberAnswer } from './NumberAnswer'
import { SeveralLabels, SeveralNumbers } from './SeveralAnswers'

export interface AnswerHeadProps {
  page: Page
  state: AnswerState
  isLate: boolean
  explained: Answered | null
  onAsk: () => void
  onTry: (inputs: Inputs) => void
  onChoose: (name: string) => void
}

export function AnswerHead(props: AnswerHeadProps) {
  const { page, state, onAsk, onTry } = props
  switch (state.status) {
    case 'invitation':
      return <Invitation page={page} onAsk={onAsk} onTry={onTry} />
    case 'asking':
      return <Quiet heading="Asking the model…" />
    case 'waiting':
      return (
        <Quiet heading="One moment…" onAgain={onAsk}>
          {state.message}
        </Quiet>
      )
    case 'failed':
      return (
        <Quiet heading="No answer for this" onAgain={onAsk}>
          {state.message}
          {state.traceback && (
            <pre className="mt-4 max-h-96 overflow-auto border border-line p-3 text-[0.75em]" tabIndex={0}>
              {state.traceback}
            </pre>
          )}
        </Quiet>
      )
    case 'refused':
      return <Refused faults={state.faults} />
    case 'answered':
      return <Standing {...props} state={state} />
  }
}

/** The answer that stands; while a newer one is long under way it is dimmed, and says what it is for. */
function Standing({ page, state, isLate, explained, onAsk, onChoose }: AnswerHeadProps & { state: Answered }) {
  const { delay } = state
  return (
    <>
      <p className={`text-[0.88em] ${isLate ? 'font-bold text-caution' : 'text-soft'}`}>
        {isLate ? 'Answer to what stood here before; the new one is on its way' : `${answerTo(page)}${page.release ? ` · version ${page.release}` : ' · draft'}`}
      </p>
      {delay && (
        <p className="text-[0.92em] text-caution">
          {delay}{' '}
          <button type="button" className="button-quiet" onClick={onAsk}>
            Try again
          </button>
        </p>
      )}
      <div className={isLate ? 'opacity-45' : ''} data-late={isLate}>
        {renderAnswer({
          page,
          answer: state.answer.answer,
          caution: isUnlike(state, explained) && <Unlike page={page} />,
          chosen: explained?.answer.explanation?.of ?? explained?.answer.curves?.[0]?.of ?? null,
          onChoose,
        })}
        <AnswerNotes notes={state.answer.notes} />
      </div>
    </>
  )
}

function answerTo({ fields }: Page): string {
  if (fields.length === 1 && fields[0]?.kind === 'text') return 'Answer to this text'
  if (!fields.every(isSeen)) return 'Answer for these values'
  return fields[0]?.kind === 'drawing' ? 'Answer to this drawing' : 'Answer to this picture'
}

function isUnlike(state: Answered, explained: Answered | null): boolean {
  const { answer, familiarity } = state.answer
  const behind = explained?.inputs === state.inputs && explained.answer.familiarity?.is_unlike
  return (answer.kind === 'class' && answer.unlike) || (familiarity?.is_unlike ?? false) || (behind ?? false)
}

function Unlike({ page }: { page: Page }) {
  return (
    <p className="text-caution">
      <span aria-hidden="true">! </span>
      {unlikeWhat(page)}: the model has not seen its like, and may be quite wrong. How sure it is cannot be said.
    </p>
  )
}

function unlikeWhat({ fields }: Page): string {
  const [first] = fields
  if (fields.length === 1 && first && isSeen(first)) return `This ${first.kind} is unlike those that the model was tried on`
  return `This ${fields.length === 1 && first?.kind === 'text' ? 'text' : 'case'} is unlike anything in the author’s table`
}

interface QuietProps {
  heading: string
  /** What *Try again* does; there is none where that is no use. */
  onAgain?: () => void
  children?: ReactNode
}

function Quiet({ heading, onAgain, children }: QuietProps) {
  return (
    <>
      <h2 id="answer-heading" className="text-[1.4em] font-bold">
        {heading}
      </h2>
      {children && <div className="mt-2 text-soft">{children}</div>}
      {onAgain && (
        <button type="button" className="button-primary mt-4" onClick={onAgain}>
          Try again
        </button>
      )}
    </>
  )
}

function Refused({ faults }: { faults: FieldProblem[] }) {
  return (
    <>
      <h2 id="answer-heading" className="text-[1.4em] font-bold">
        The answer waits for {faults.length === 1 ? 'one value' : `${faults.length} values`}
      </h2>
      <ul className="mt-2 space-y-1 text-soft">
        {faults.map((fault) => (
          <li key={`${fault.field} ${fault.message}`}>{fault.message}</li>
        ))}
      </ul>
    </>
  )
}

interface Rendered {
  page: Page
  answer: Answer
  /** What must be read before any number is; stands right under the headline. */
  caution: ReactNode
  /** Of several answers, the one that is explained now. */
  chosen: string | null
  onChoose: (name: string) => void
}

function renderAnswer({ page, answer, caution, chosen, onChoose }: Rendered): ReactNode {
  switch (answer.kind) {
    case 'class':
      return page.answer.kind === 'class' && <ClassAnswer answer={answer} setting={page.answer} caution={caution} />
    case 'number':
      return page.answer.kind === 'number' && <NumberAnswer answer={answer} setting={page.answer} caution={caution} />
    case 'numbers':
      return <SeveralNumbers page={page} answer={answer} caution={caution} chosen={chosen} onChoose={onChoose} />
    case 'labels':
      return <SeveralLabels page={page} answer={answer} caution={caution} chosen={chosen} onChoose={onChoose} />
  }
}

function AnswerNotes({ notes }: { notes: Note[] }) {
  // What is about one field is said at that field.
  const shown = notes.filter((note) => note.field === null)
  if (shown.length === 0) return null
  return (
    <ul className="mt-3 space-y-1 text-[0.92em] text-caution">
      {shown.map((note) => (
        <li key={note.message}>
          <span aria-hidden="true">! </span>
          {note.message}
        </li>
      ))}
    </ul>
  )
}
