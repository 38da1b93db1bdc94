/** What must be read before any number is. */
import type { ReactNode } from 'react'
import type { Page } from '../../api/client'
import { isSeen } from '../../domain/kinds'

export function Unlike({ page }: { page: Page }) {
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

export function Quiet({ heading, onAgain, children }: QuietProps) {
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
