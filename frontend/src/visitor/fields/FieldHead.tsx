/** The line above a control: its label, what stands beside it, and the place of what its value adds. */
import type { ReactNode } from 'react'
import type { ControlIds } from './FieldRow'
import { PushWords } from './PushWords'
import type { FieldWhy } from '../../domain/why'

export interface FieldHeadProps {
  label: ReactNode
  /** What explains the answer at this field, once that has come. */
  why: FieldWhy | null
  children?: ReactNode
}

/** At the right-hand end stands how far this value pushed the answer. */
export function FieldHead({ label, why, children }: FieldHeadProps) {
  return (
    <div className="mb-1.5 flex min-h-7 flex-wrap items-baseline gap-x-3">
      {label}
      {children}
      {/* Its room is kept: a line that wraps as the words grow would move the control under a hand. */}
      <span className="ml-auto min-w-[8.4em] text-right whitespace-nowrap empty:before:content-['\200b']" data-place="push">
        <PushWords why={why} />
      </span>
    </div>
  )
}

export interface LabelledHeadProps {
  label: string
  /** Of the control that the label belongs to. */
  ids: ControlIds
  why: FieldWhy | null
  children?: ReactNode
}

/** The same above a control that its label finds by its id. */
export function LabelledHead({ label, ids, why, children }: LabelledHeadProps) {
  const element = (
    <label id={ids.label} htmlFor={ids.control} className="font-bold">
      {label}
    </label>
  )
  return (
    <FieldHead why={why} label={element}>
      {children}
    </FieldHead>
  )
}
