/** What may be wider than the screen scrolls in a frame of its own; the page never does. */
import type { ReactNode } from 'react'

/** @param label what is in it, for whoever comes there by keys */
export function Framed({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={label}>
      {children}
    </div>
  )
}
