/** The answer: its head, which stays in sight, and what stands behind it. */
import { lazy, Suspense, type ReactNode } from 'react'
import type { Inputs, Page } from '../../api/client'
import type { Where } from '../../api/picture'
import { AnswerHead } from './AnswerHead'
import type { Answered, AnswerState } from '../case/answerLine'
import { fadeOf } from '../case/late'
import { BoxesList } from './BoxesList'
import { Kept, type KeptAnswer } from './Kept'

/** Loaded once the page stands: nobody needs it before the first answer. */
const Behind = lazy(() => import('../reasons/Behind'))

export interface AnswerPanelProps {
  page: Page
  isDraft: boolean
  state: AnswerState
  /** Whether the answer has been on its way for so long that it must be said. */
  isLate: boolean
  /** The same of what explains it. */
  isWhyLate: boolean
  /** Whether the first of what explains this answer is still on its way. */
  isWhyComing: boolean
  /** What explains the answer, with its numbers as they are shown; a moment behind it while values move. */
  explained: Answered | null
  where: Where[]
  /** Why the model did not say where it looked, or no sharper. */
  whyNotWhere: string | null
  kept: KeptAnswer[]
  onAsk: () => void
  onStop: () => void
  /** Put these values into the form. */
  onTry: (inputs: Inputs) => void
  onDrop: (number: number) => void
  /** Of several answers, the one that fields and sections are to be about. */
  onChoose: (name: string) => void
  /** More that can be done with an answer. */
  children?: ReactNode
}

export function AnswerPanel(props: AnswerPanelProps) {
  const { page, state, isLate, kept, onTry, onDrop, children } = props
  return (
    <section id="answer" aria-labelledby="answer-heading" aria-busy={isBusy(state)} tabIndex={-1} className="h-full scroll-mt-4">
      <div data-setting="answer" className="answer-head bg-paper pb-4">
        <AnswerHead {...props} />
        <div className="actions mt-4 flex flex-wrap gap-2 text-[0.86em] empty:hidden print:hidden">{children}</div>
      </div>
      <div data-setting="parts" className={`behind flex flex-col ${fadeOf(state, isLate)}`}>
        {state.status === 'answered' && <BoxesList inputs={state.inputs} />}
        <Kept
          page={page}
          kept={kept}
          now={state.status === 'answered' ? { inputs: state.inputs, answer: state.answer.answer, release: state.answer.release } : null}
          onDrop={onDrop}
          onTakeUp={onTry}
        />
        {state.status === 'answered' && (
          <Suspense>
            <Behind page={page} isDraft={props.isDraft} state={state} explained={props.explained} isWhyLate={props.isWhyLate} isWhyComing={props.isWhyComing} where={props.where} whyNotWhere={props.whyNotWhere} onTry={onTry} />
          </Suspense>
        )}
      </div>
    </section>
  )
}

function isBusy(state: AnswerState): boolean {
  return state.status === 'asking' || (state.status === 'answered' && state.isStale && !state.isHeld)
}
