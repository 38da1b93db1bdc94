/** Where the parts of a film stand: on a phone one under the other, what is said and the strips close to the film; on a desk side by side. */
import type { ReactNode } from 'react'

export interface FilmLayoutProps {
  pane: ReactNode
  /** What is said of the moment. */
  moment: ReactNode
  strips: ReactNode
  /** What can be set, and done. */
  aside: ReactNode
}

export function FilmLayout({ pane, moment, strips, aside }: FilmLayoutProps) {
  return (
    <div className="film-parts">
      <div style={{ gridArea: 'pane' }}>{pane}</div>
      <div style={{ gridArea: 'moment' }}>{moment}</div>
      <div style={{ gridArea: 'strips' }}>{strips}</div>
      <div style={{ gridArea: 'aside' }}>{aside}</div>
    </div>
  )
}
