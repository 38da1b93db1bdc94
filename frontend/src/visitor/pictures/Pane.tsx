/** The window that a picture is seen in: ways along its upper edge, the pane, the sill that closes it. */
import type { ReactNode } from 'react'

export interface PaneProps {
  /** Along the upper edge: what can be done. */
  ways: ReactNode
  /** Under the sill: what is said of it. */
  under?: ReactNode
  /** Whether something is held over it that can be dropped. */
  isOver?: boolean
  /** As high as wide, for a sheet. */
  isSquare?: boolean
  children: ReactNode
}

export function Pane({ ways, under, isOver = false, isSquare = false, children }: PaneProps) {
  return (
    <div>
      <div className="mb-1.5 flex min-h-7 flex-wrap items-baseline gap-x-4 gap-y-1 text-[0.9em] print:hidden">{ways}</div>
      <div className="max-[899px]:-mx-5">
        <div className={`pane drawn relative overflow-hidden ${isSquare ? 'pane-square' : 'pane-wide'}`} data-over={isOver}>
          {children}
        </div>
        <div className="sill drawn" aria-hidden="true" />
      </div>
      {under}
    </div>
  )
}

/** As large a box of this shape as the pane has room for, in its middle. */
export function FitBox({ ratio, children }: { ratio: number; children: ReactNode }) {
  return (
    <div className="fit absolute inset-0 grid place-items-center">
      <div className="relative" style={{ width: `min(100cqw, ${ratio} * 100cqh)`, aspectRatio: ratio }}>
        {children}
      </div>
    </div>
  )
}
