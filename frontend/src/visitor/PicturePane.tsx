/** The visitor's picture in its window, with the frost that tells where the model looked. */
import { useContext, useEffect, useRef, useState } from 'react'
import type { PictureField } from '../api/client'
import type { PictureValue, Where } from '../api/picture'
import { CaseContext } from './caseContext'
import { drawFrost, seenBox } from './frost'
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

/** Two of the smallest steps that words tell apart: what does less must not look as if it mattered. */
const HARDLY_POINTS = 0.02

export function PicturePane({ field, picture, source, where, strength }: PicturePaneProps) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const frost = useRef<HTMLCanvasElement>(null)
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
  return (
    <FitBox ratio={ratio}>
      <canvas ref={canvas} role="img" aria-label="Your picture" className="absolute inset-0 size-full" />
      <canvas ref={frost} aria-hidden="true" className="pointer-events-none absolute inset-0 size-full" style={{ opacity: strength }} data-testid="frost" />
    </FitBox>
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
  const { width, height, colour } = field.preparation
  return (
    <div className="mt-2 flex min-h-20 flex-wrap items-start justify-between gap-x-6 gap-y-2 text-[0.85em] text-soft">
      <div className="min-w-0 flex-1">
        {where && (
          <>
            <p>
              Clear: what spoke for “{of}”. Frosted: what hardly mattered. Hatched, ▼: what spoke against.
            </p>
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
        <figure className="flex items-end gap-2">
          <figcaption className="max-w-36 text-right">
            As the model sees it: {width} × {height}
            {colour === 'grey' ? ', grey' : ''}
          </figcaption>
          <img src={seen[field.name]} alt="Your picture as the model sees it" width={72} className="border border-line [image-rendering:pixelated]" />
        </figure>
      )}
    </div>
  )
}
