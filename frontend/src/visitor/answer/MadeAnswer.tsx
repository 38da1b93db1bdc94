/** An answer that is a picture: how it is looked at, how large it is, and a way to save it as it is. */
import { useContext, type ReactNode } from 'react'
import type { Inputs } from '../../api/client'
import { MadeContext } from '../pictures/madeView'
import { Pixels } from '../pictures/Pixels'
import { SaveMade } from './SaveMade'

export interface MadeAnswerProps {
  inputs: Inputs
  /** What must be read before anything is looked at. */
  caution: ReactNode
}

export function MadeAnswer({ inputs, caution }: MadeAnswerProps) {
  const view = useContext(MadeContext)
  if (!view || view.made.answer.kind !== 'picture' || view.made.setting.kind !== 'picture') return null
  const { answer, setting } = view.made
  const { image, isSideBySide, onSideBySide } = view
  return (
    <>
      <h2 id="answer-heading" className="mt-1 text-[1.7em] leading-tight font-bold first-letter:uppercase">
        {setting.name}
      </h2>
      {caution}
      <p className="mt-1 text-soft">
        <span className="print:hidden">
          {isSideBySide ? `Left ${setting.before}, right ${setting.name}.` : `Left of the line in the picture ${setting.before}, right of it ${setting.name}. Drag the line, or move it with the arrow keys.`}{' '}
        </span>
        It is the model’s guess, and no photograph.
      </p>
      {/* The pane is not printed; what was given stands below. */}
      {image && (
        <div className="relative mt-3 hidden w-[60mm] print:block" style={{ aspectRatio: `${image.width} / ${image.height}` }}>
          <Pixels image={image} part={{}} label={setting.name ?? 'The answer'} />
        </div>
      )}
      {!answer.is_full && <p className="mt-1 text-[0.92em] text-caution">! The model works in less detail than your picture has: what it gives is smaller.</p>}
      <div className="mt-3 flex flex-wrap gap-x-5 gap-y-1 text-[0.92em] print:hidden">
        <button type="button" className="button-quiet" aria-pressed={isSideBySide} onClick={() => onSideBySide(!isSideBySide)}>
          {isSideBySide ? 'Under one divider' : 'Side by side'}
        </button>
        <SaveMade inputs={inputs} as="picture">
          Save it
        </SaveMade>
      </div>
    </>
  )
}
