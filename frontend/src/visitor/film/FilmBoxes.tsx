/** Which boxes of a film are shown, and what their scores are worth. */
import { useContext } from 'react'
import { Kinds, LeastScore } from '../answer/BoxesControls'
import { BoxesContext } from '../pictures/boxesView'

export function FilmBoxes({ note = '' }: { note?: string }) {
  const view = useContext(BoxesContext)
  if (!view) return null
  return (
    <>
      <LeastScore view={view} />
      {view.setting.labels.length > 1 && <Kinds view={view} />}
      <p className="mt-1 text-[0.9em] text-soft">A score is how sure the model says it is. No known pictures bear that out. {note}</p>
    </>
  )
}
