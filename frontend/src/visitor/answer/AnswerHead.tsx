/** Headline, figures and marks, or why there is no answer and how one comes. */
import type { ReactNode } from 'react'
import type { Answer, Inputs, Page } from '../../api/client'
import type { Answered, AnswerState } from '../case/answerLine'
import { fadeOf } from '../case/late'
import { isSeen } from '../../domain/kinds'
import { CodeLines } from '../../parts/CodeLines'
import { BoxesAnswer } from './BoxesAnswer'
import { ClassAnswer } from './ClassAnswer'
import { Invitation } from './Invitation'
import { MadeAnswer } from './MadeAnswer'
import { MaskAnswer } from './MaskAnswer'
import { NumberAnswer } from './NumberAnswer'
import { SeveralLabels, SeveralNumbers } from './SeveralAnswers'
import { AnswerNotes, Refused } from './AnswerNotes'
import { TableAnswer, TextAnswer } from './WrittenAnswer'
import { Stop } from './Stop'
import { Quiet, Unlike } from './Cautions'

export interface AnswerHeadProps {
  page: Page
  state: AnswerState
  isLate: boolean
  explained: Answered | null
  onAsk: () => void
  /** Wait no longer for the answer. */
  onStop: () => void
  onTry: (inputs: Inputs) => void
  onChoose: (name: string) => void
}

export function AnswerHead(props: AnswerHeadProps) {
  const { page, state, onAsk, onStop, onTry } = props
  switch (state.status) {
    case 'invitation':
      return <Invitation page={page} onAsk={onAsk} onTry={onTry} />
    case 'asking':
      return (
        <Quiet heading="Asking the model…">{mayTakeLong(page) && <Stop onStop={onStop} />}</Quiet>
      )
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
          {state.traceback && <CodeLines text={state.traceback} />}
        </Quiet>
      )
    case 'refused':
      return <Refused faults={state.faults} />
    case 'answered':
      return <Standing {...props} state={state} />
  }
}

/** The answer that stands; while a newer one is long under way it is dimmed, and says what it is for. */
function Standing({ page, state, isLate, explained, onAsk, onStop, onChoose }: AnswerHeadProps & { state: Answered }) {
  const { delay } = state
  return (
    <>
      {state.isHeld && (
        <p className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <span className="font-bold text-caution">This answers what stood here before.</span>
          <button type="button" className="button-primary" onClick={onAsk}>
            Show the answer
          </button>
        </p>
      )}
      <p className={`text-[0.88em] ${isLate && !state.isHeld ? 'font-bold text-caution' : 'text-soft'}`}>
        {isLate && !state.isHeld ? `Answer to what stood here before${delay ? '' : '; the new one is on its way'}` : `${answerTo(page)}${state.answer.release ? ` · version ${state.answer.release}` : ' · draft'}`}
      </p>
      {isLate && !state.isHeld && !delay && mayTakeLong(page) && <Stop onStop={onStop} />}
      {delay && (
        <p className="text-[0.92em] text-caution">
          {delay}{' '}
          <button type="button" className="button-quiet" onClick={onAsk}>
            Try again
          </button>
        </p>
      )}
      <div className={fadeOf(state, isLate)} data-late={isLate}>
        {renderAnswer({
          page,
          answer: state.answer.answer,
          inputs: state.inputs,
          caution: isUnlike(state, explained) && <Unlike page={page} />,
          chosen: explained?.answer.explanation?.of ?? explained?.answer.curves?.[0]?.of ?? null,
          onChoose,
        })}
        <AnswerNotes notes={state.answer.notes} />
      </div>
    </>
  )
}

/** Whether an answer may be waited for so long that somebody would rather not. Elsewhere a button that comes and goes would
 * only move what is under a hand. */
function mayTakeLong({ answer, asks }: Page): boolean {
  return asks === 'button' || answer.kind === 'boxes' || answer.kind === 'picture' || answer.kind === 'mask'
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

function nameOf({ answer }: Page): string {
  return answer.kind === 'text' || answer.kind === 'table' ? (answer.name ?? 'Answer') : 'Answer'
}

interface Rendered {
  page: Page
  answer: Answer
  /** What it answers. */
  inputs: Inputs
  /** What must be read before any number is; stands right under the headline. */
  caution: ReactNode
  /** Of several answers, the one that is explained now. */
  chosen: string | null
  onChoose: (name: string) => void
}

function renderAnswer({ page, answer, inputs, caution, chosen, onChoose }: Rendered): ReactNode {
  switch (answer.kind) {
    case 'class':
      return page.answer.kind === 'class' && <ClassAnswer answer={answer} setting={page.answer} caution={caution} />
    case 'number':
      return page.answer.kind === 'number' && <NumberAnswer answer={answer} setting={page.answer} caution={caution} />
    case 'numbers':
      return <SeveralNumbers page={page} answer={answer} caution={caution} chosen={chosen} onChoose={onChoose} />
    case 'labels':
      return <SeveralLabels page={page} answer={answer} caution={caution} chosen={chosen} onChoose={onChoose} />
    case 'boxes':
      return <BoxesAnswer caution={caution} />
    case 'picture':
      return <MadeAnswer inputs={inputs} caution={caution} />
    case 'text':
      return <TextAnswer name={nameOf(page)} answer={answer} caution={caution} />
    case 'table':
      return <TableAnswer name={nameOf(page)} answer={answer} caution={caution} />
    case 'mask':
      return <MaskAnswer inputs={inputs} caution={caution} />
  }
}
