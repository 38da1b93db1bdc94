/** Keep, take back, send, print, start again, and whether it was right. */
import type { ReactNode } from 'react'
import type { Page } from '../../api/client'
import type { AnswerState } from '../case/answerLine'
import { WasRight } from './WasRight'

export interface ActionsProps {
  page: Page
  state: AnswerState
  onKeep: () => void
  keepKey: string | undefined
  /** Null while there is nothing to take back. */
  onTakeBack: (() => void) | null
  /** Null while nothing was asked. */
  onReset: (() => void) | null
  children: ReactNode
}

/** What can be done with the answer, in one row. */
export function Actions({ page, state, onKeep, keepKey, onTakeBack, onReset, children }: ActionsProps) {
  const isAnswered = state.status === 'answered'
  return (
    <>
      {page.parts.compare && isAnswered && (
        <button type="button" className="button-primary" aria-disabled={state.isStale} aria-keyshortcuts={keepKey} aria-label="Keep to compare" onClick={onKeep}>
          Keep
        </button>
      )}
      {onTakeBack && state.status !== 'asking' && (
        <button type="button" className="button-plain" onClick={onTakeBack}>
          Undo
        </button>
      )}
      {isAnswered && children}
      {isAnswered && (
        <button type="button" className="button-plain" onClick={() => window.print()}>
          Print
        </button>
      )}
      {onReset && state.status !== 'asking' && (
        <button type="button" className="button-plain" onClick={onReset}>
          Start again
        </button>
      )}
      {isAnswered && page.parts.outcomes && <WasRight page={page} answer={state.answer} />}
    </>
  )
}
