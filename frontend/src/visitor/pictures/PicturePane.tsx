/** The visitor's picture in its window, with the frost that tells where the model looked. */
import { useContext, useEffect, useRef, useState } from 'react'
import type { PictureField } from '../../api/client'
import type { PictureValue, Where } from '../../api/picture'
import { CaseContext } from '../case/caseContext'
import { BoxesOverPicture } from './BoxesOverPicture'
import { drawFrost, frostWords, HARDLY_POINTS, seenBox } from './frost'
import { MadeOverPicture } from './MadeOverPicture'
import { MadeContext } from './madeView'
import { Pixels } from './Pixels'
import { FitBox } from './Pane'
import { drawPicture, type Source } from './pictureSource'

export interface PicturePaneProps {
  field: PictureField
  picture: PictureValue
  source: Source
  /** Where the model looked in it; null while that is not known. */
  where: Where | null
  /** From 0, no frost, to 1. */
  strength: number
}

export function PicturePane({ field, picture, source, where, strength }: PicturePaneProps) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const frost = useRef<HTMLCanvasElement>(null)
  const view = useContext(MadeContext)
  const [ratio, setRatio] = useState(1)
  // Canvases are drawn on by hand.
  useEffect(() => {
    if (!canvas.current || source.status !== 'there') return
    drawPicture(canvas.current, source.image, picture.cut, picture.turn)
    setRatio(canvas.current.width / canvas.current.height)
  }, [source, picture.cut, picture.turn])
  useEffect(() => {
    if (!frost.current || !canvas.current) return
    if (where) drawFrost(frost.current, canvas.current, where, seenBox(field.preparation, ratio), HARDLY_POINTS)
    else frost.current.width = 0
  }, [where, field.preparation, ratio, source, picture.cut, picture.turn])
  if (source.status === 'not shown') {
    return <p className="absolute inset-0 grid place-items-center p-6 text-center text-soft">This browser cannot show the picture. The model may still be able to read it.</p>
  }
  const frame = (
    <FitBox ratio={ratio}>
      <canvas ref={canvas} role="img" aria-label="Your picture" className="absolute inset-0 size-full" />
      <BoxesOverPicture picture={picture} />
      <MadeOverPicture />
      <canvas ref={frost} aria-hidden="true" className="pointer-events-none absolute inset-0 size-full" style={{ opacity: strength }} data-testid="frost" />
    </FitBox>
  )
  const made = view?.isSideBySide && view.image && view.made.answer.kind === 'picture' && view.made.setting.kind === 'picture' ? view.made : null
  return (
    // One tree for both: what was drawn on a canvas stays on it.
    <div className={`absolute inset-0 ${made ? 'side-by-side' : ''}`}>
      <div className="relative h-full">{frame}</div>
      {made && view?.image && (
        <div className="relative h-full">
          <FitBox ratio={ratio}>
            <Pixels image={view.image} part={made.answer.part ?? {}} label={`The answer: ${'name' in made.setting ? made.setting.name : ''}`} />
          </FitBox>
        </div>
      )}
    </div>
  )
}

export interface UnderPaneProps {
  field: PictureField
  where: Where | null
  /** Whose answer the frost tells. */
  of: string
  strength: number
  onStrength: (strength: number) => void
}

/** What the frost says, a slider that takes it away, and the picture as the model sees it. */
export function UnderPane({ field, where, of, strength, onStrength }: UnderPaneProps) {
  const { seen } = useContext(CaseContext)
  const { width, height, colour, own_size } = field.preparation
  return (
    <div className="mt-2 flex min-h-32 items-start justify-between gap-6 text-[0.85em] text-soft max-[479px]:min-h-40">
      <div className="min-w-0 flex-1">
        {where && (
          <>
            <p>{frostWords(of)}</p>
            <label className="mt-1 flex max-w-72 items-center gap-3 print:hidden">
              <span>clear</span>
              <input
                type="range"
                className="slider"
                min={0}
                max={100}
                value={Math.round(strength * 100)}
                aria-label="Frost over the picture"
                onChange={(event) => onStrength(Number(event.target.value) / 100)}
              />
              <span>frosted</span>
            </label>
          </>
        )}
      </div>
      {seen[field.name] && (
        <figure className="w-24 shrink-0">
          <img src={seen[field.name]} alt="Your picture as the model sees it" width={72} className="ml-auto border border-line [image-rendering:pixelated]" />
          <figcaption className="text-right leading-tight">
            As the model sees it: {own_size ? 'in its own size' : `${width}\u00a0×\u00a0${height}`}
            {colour === 'grey' ? ', grey' : ''}
          </figcaption>
        </figure>
      )}
    </div>
  )
}
