/** The window that a film is seen in: as large as its shape and the screen allow. */
import type { ReactNode } from 'react'

/** So much of a screen's height at the most: the strips belong in sight. */
const MOST_HEIGHT = 54

export function FilmPane({ shape, children }: { shape: number; children: ReactNode }) {
  return (
    <div className="mx-auto mt-2 min-[900px]:mx-0" style={{ width: `min(100%, ${(MOST_HEIGHT * shape).toFixed(2)}vh)` }}>
      <div className="pane drawn relative overflow-hidden" style={{ aspectRatio: shape }}>
        {children}
      </div>
      <div className="sill drawn" aria-hidden="true" />
    </div>
  )
}
