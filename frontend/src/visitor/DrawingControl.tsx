/** A sheet to draw on: pen, finger or mouse; asked about while it is drawn on. */
import { useContext, useEffect, useRef, type PointerEvent } from 'react'
import type { DrawingField, InputValue } from '../api/client'
import { isPicture, WHOLE, type PictureValue, type Point, type Stroke } from '../api/picture'
import { CaseContext } from './caseContext'
import { FieldHead } from './FieldHead'
import type { ControlIds } from './FieldRow'
import { drawStrokes } from './ink'
import type { FieldWhy } from './why'

export interface DrawingControlProps {
  field: DrawingField
  value: InputValue
  ids: ControlIds
  why: FieldWhy | null
  onChange: (value: PictureValue | null) => void
}

/** Pixels of the sheet; it is shown smaller. */
const SIDE = 640
const NO_STROKES: Stroke[] = []

export function DrawingControl({ field, value, ids, why, onChange }: DrawingControlProps) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const strokes = (isPicture(value) && value.strokes) || NO_STROKES
  const isDrawing = useRef(false)
  const { seen, samples, onTry } = useContext(CaseContext)
  // A canvas is drawn on by hand.
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (context) drawStrokes(context, SIDE, strokes, field.line_width ?? 0.07)
  }, [strokes, field.line_width])

  const set = (next: Stroke[]) => onChange(next.length ? { strokes: next, cut: WHOLE, turn: 0 } : null)
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
    set([...strokes, pointsOf(event)])
  }
  const go = (event: PointerEvent<HTMLCanvasElement>) => {
    const last = strokes.at(-1)
    if (isDrawing.current && last) set([...strokes.slice(0, -1), [...last, ...pointsOf(event)]])
  }
  const end = () => (isDrawing.current = false)
  const { width, height } = field.preparation
  return (
    <>
      <FieldHead
        why={why}
        label={
          <span id={ids.label} className="font-bold">
            {field.label}
          </span>
        }
      />
      <div className="flex flex-wrap items-end gap-4">
        <canvas
          ref={canvas}
          id={ids.control}
          width={SIDE}
          height={SIDE}
          role="img"
          aria-labelledby={ids.label}
          aria-describedby={ids.describedBy}
          className="aspect-square w-full max-w-84 cursor-crosshair touch-none border border-edge bg-white"
          onPointerDown={begin}
          onPointerMove={go}
          onPointerUp={end}
          onPointerCancel={end}
        />
        {seen[field.name] && strokes.length > 0 && (
          <figure className="w-24">
            <img src={seen[field.name]} alt="Your drawing as the model sees it" width={96} className="border border-line [image-rendering:pixelated]" />
            <figcaption className="mt-1 text-[0.8em] text-soft">
              As the model sees it: {width} × {height}
            </figcaption>
          </figure>
        )}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[0.9em]">
        <button type="button" className="button-quiet disabled:opacity-55" disabled={!strokes.length} onClick={() => set(strokes.slice(0, -1))}>
          Take back a stroke
        </button>
        <button type="button" className="button-quiet disabled:opacity-55" disabled={!strokes.length} onClick={() => onChange(null)}>
          Clear
        </button>
        <span className="text-soft">
          {strokes.length === 0 ? 'Nothing drawn yet' : strokes.length === 1 ? '1 stroke' : `${strokes.length} strokes`}
        </span>
      </div>
      {samples.length > 0 && (
        <p className="mt-2 text-[0.88em] text-soft">
          Without a pen, try:{' '}
          {samples.map((sample, at) => (
            <span key={sample.title}>
              {at > 0 && ', '}
              <button type="button" className="button-quiet" onClick={() => onTry(sample.inputs as Record<string, InputValue>)}>
                {sample.title}
              </button>
            </span>
          ))}
        </p>
      )}
    </>
  )
}

/** A thousandth of the sheet is finer than any hand, and short to send. */
function round(share: number): number {
  return Math.round(share * 1000) / 1000
}
