/** The line above a control: its label, what stands beside it, and the place of the push. */
import type { ReactNode } from 'react'

export interface FieldHeadProps {
  label: ReactNode
  children?: ReactNode
}

/** The right-hand end is kept free for how far this value pushed the answer. */
export function FieldHead({ label, children }: FieldHeadProps) {
  return (
    <div className="mb-1.5 flex min-h-7 flex-wrap items-baseline gap-x-3">
      {label}
      {children}
      <span className="ml-auto" data-place="push" />
    </div>
  )
}
