/** A picture or a drawing of a case, small: kept answers and what was asked are told by it. */
import { useContext, useEffect, useRef } from 'react'
import type { InputValue } from '../api/client'
import { isPicture } from '../api/picture'
import { CaseContext } from './caseContext'
import { drawStrokes } from './ink'
import { drawPicture, useSource } from './pictureSource'

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
}

export function SmallPicture({ value, side, name }: SmallPictureProps) {
  const { slug, isDraft } = useContext(CaseContext)
  const picture = isPicture(value) ? value : null
  const source = useSource(slug, isDraft, picture)
  const canvas = useRef<HTMLCanvasElement>(null)
  // A canvas is drawn on by hand.
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!canvas.current || !context || !picture) return
    if (picture.strokes) {
      canvas.current.width = canvas.current.height = SHARPER * side
      drawStrokes(context, SHARPER * side, picture.strokes, LINE_WIDTH, WHITE)
    } else if (source.status === 'there') drawPicture(canvas.current, source.image, picture.cut, picture.turn, SHARPER * side)
  }, [picture, source, side])
  if (!picture || source.status === 'not shown') return <span>{name}</span>
  return <canvas ref={canvas} role="img" aria-label={name} className="small-picture inline-block border border-line" style={{ maxWidth: side, maxHeight: side }} />
}
