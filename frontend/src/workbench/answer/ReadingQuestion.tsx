/** What is asked about a reading that was concluded, the tries that show it, and the button that confirms it. */
import type { ReactNode } from 'react'
import type { Draft } from '../bench/useDraft'

export function ReadingQuestion({ draft, confirm, children }: { draft: Draft; confirm: string; children?: ReactNode }) {
  const question = draft.demo.questions.find((one) => one.name === 'reading')
  return (
    <>
      {question && (
        <p className="text-caution">
          <span aria-hidden="true">! </span>
          {question.text}
        </p>
      )}
      {children}
      {question && (
        <button type="button" className="button-plain mt-2" onClick={() => void draft.save((now) => ({ confirmed: [...(now.confirmed ?? []), 'reading'] }))}>
          {confirm}
        </button>
      )}
    </>
  )
}
