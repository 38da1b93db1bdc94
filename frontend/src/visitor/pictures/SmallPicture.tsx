/** A picture or a drawing of a case, small: kept answers and what was asked are told by it. On paper with its frost. */
import { useContext, useEffect, useRef, type ReactNode } from 'react'
import type { Field, InputValue } from '../../api/client'
import { isPicture, type Where } from '../../api/picture'
import { CaseContext } from '../case/caseContext'
import { drawFrost, HARDLY_POINTS, seenBox } from './frost'
import { drawStrokes } from './ink'
import { drawPicture, useSource } from './pictureSource'
import { StrokesFrost } from './StrokesFrost'

const LINE_WIDTH = 0.05
/** Drawn sharper than it is shown: it may be printed. */
const SHARPER = 5
const WHITE = [255, 255, 255]

export interface SmallPictureProps {
  value: InputValue
  /** Longest side, in pixels. */
  side: number
  /** What it is, for whoever does not see it. */
  name: string
  /** Where the model looked in it, to be printed; on the screen the pane tells it. */
  looked?: { field: Field; where: Where } | null
  /** What lies over it on paper besides: what the model found in it. */
  over?: ReactNode
}

export function SmallPicture({ value, side, name, looked = null, over }: SmallPictureProps) {
  const { slug, isDraft } = useContext(CaseContext)
  const picture = isPicture(value) ? value : null
  const source = useSource(slug, isDraft, picture)
  const canvas = useRef<HTMLCanvasElement>(null)
  const frost = useRef<HTMLCanvasElement>(null)
  // A canvas is drawn on by hand.
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!canvas.current || !context || !picture) return
    if (picture.strokes) {
      canvas.current.width = canvas.current.height = SHARPER * side
      drawStrokes(context, SHARPER * side, picture.strokes, LINE_WIDTH, WHITE)
    } else if (source.status === 'there') drawPicture(canvas.current, source.image, picture.cut, picture.turn, SHARPER * side)
    if (frost.current && looked?.field.kind === 'picture') {
      const box = seenBox(looked.field.preparation, canvas.current.width / canvas.current.height)
      drawFrost(frost.current, canvas.current, looked.where, box, HARDLY_POINTS)
    }
  }, [picture, source, side, looked])
  if (!picture || source.status === 'not shown') return <span>{name}</span>
  return (
    <span className="relative inline-block">
      <canvas ref={canvas} role="img" aria-label={name} className="small-picture inline-block border border-line" style={{ maxWidth: side, maxHeight: side }} />
      {over && <span className="absolute inset-0 hidden print:block">{over}</span>}
      {looked && (
        <span className="absolute inset-0 hidden print:block" data-testid="paper-frost">
          {looked.field.kind === 'drawing' && picture.strokes ? (
            <StrokesFrost strokes={picture.strokes} contributions={looked.where.contributions} lineWidth={LINE_WIDTH} />
          ) : (
            <canvas ref={frost} className="size-full" aria-hidden="true" />
          )}
        </span>
      )}
    </span>
  )
}
