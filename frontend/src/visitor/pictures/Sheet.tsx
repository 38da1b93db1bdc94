/** A sheet to draw on with a pen, a finger or the mouse. */
import { useEffect, useRef, type PointerEvent } from 'react'
import type { Point, Stroke } from '../../api/picture'
import { drawStrokes } from './ink'

/** Pixels of the sheet; it is shown smaller. */
export const SHEET_SIDE = 640

const WHITE = [255, 255, 255]

export interface SheetProps {
  strokes: Stroke[]
  /** As a share of the sheet's side. */
  lineWidth: number
  /** Red, green and blue of the paper. */
  paper?: number[]
  id?: string
  /** What is drawn on it. */
  label: string
  describedBy?: string
  onStrokes: (strokes: Stroke[]) => void
}

export function Sheet({ strokes, lineWidth, paper = WHITE, id, label, describedBy, onStrokes }: SheetProps) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const isDrawing = useRef(false)
  // A canvas is drawn on by hand.
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (context) drawStrokes(context, SHEET_SIDE, strokes, lineWidth, paper)
  }, [strokes, lineWidth, paper])

  const pointsOf = (event: PointerEvent<HTMLCanvasElement>): Point[] => {
    const box = event.currentTarget.getBoundingClientRect()
    const events = event.nativeEvent.getCoalescedEvents?.() ?? []
    return (events.length ? events : [event.nativeEvent]).map((one) => [
      round((one.clientX - box.left) / box.width),
      round((one.clientY - box.top) / box.height),
      // A mouse says half; a finger that cannot tell says nothing.
      round(one.pressure || 0.5),
    ])
  }
  const begin = (event: PointerEvent<HTMLCanvasElement>) => {
    if (event.button !== 0) return
    event.currentTarget.setPointerCapture(event.pointerId)
    isDrawing.current = true
    onStrokes([...strokes, pointsOf(event)])
  }
  const go = (event: PointerEvent<HTMLCanvasElement>) => {
    const last = strokes.at(-1)
    if (isDrawing.current && last) onStrokes([...strokes.slice(0, -1), [...last, ...pointsOf(event)]])
  }
  const end = () => (isDrawing.current = false)
  return (
    <canvas
      ref={canvas}
      id={id}
      width={SHEET_SIDE}
      height={SHEET_SIDE}
      role="img"
      aria-label={`${label}: ${strokeWords(strokes.length)}`}
      aria-describedby={describedBy}
      className="absolute inset-0 size-full cursor-crosshair touch-none"
      onPointerDown={begin}
      onPointerMove={go}
      onPointerUp={end}
      onPointerCancel={end}
    />
  )
}

/** What is on a sheet, for whoever does not see it. */
export function strokeWords(count: number): string {
  return count === 0 ? 'nothing drawn yet' : count === 1 ? '1 stroke' : `${count} strokes`
}

/** A thousandth of the sheet is finer than any hand, and short to send. */
function round(share: number): number {
  return Math.round(share * 1000) / 1000
}
