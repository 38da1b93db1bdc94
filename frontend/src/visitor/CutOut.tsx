/** Cutting a part out of a picture: drawn with the pointer, or moved and sized with the arrow keys. */
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { WHOLE, type Cut } from '../api/picture'
import { dragged, moved, sized } from './cut'
import { drawPicture } from './pictureSource'

export interface CutOutProps {
  image: ImageBitmap
  cut: Cut
  onCut: (cut: Cut) => void
  onLeave: () => void
}

const STEP = 0.02

export function CutOut({ image, cut, onCut, onLeave }: CutOutProps) {
  const [chosen, setChosen] = useState(cut)
  const start = useRef<{ x: number; y: number } | null>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  // A canvas is drawn on by hand.
  useEffect(() => {
    if (canvas.current) drawPicture(canvas.current, image, WHOLE, 0)
  }, [image])

  const at = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect()
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
  }
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, -STEP], ArrowDown: [0, STEP] }[event.key]
    if (!by) return
    event.preventDefault()
    const [across = 0, down = 0] = by
    setChosen(event.shiftKey ? sized(chosen, across, down) : moved(chosen, across, down))
  }
  const percent = (share: number) => `${share * 100}%`
  return (
    <div>
      <p className="pb-2 text-[0.88em] text-soft">Draw a frame around what counts. With the keyboard: arrows move it, with Shift they size it.</p>
      <div
        className="relative inline-block max-w-full cursor-crosshair touch-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId)
          start.current = at(event)
        }}
        onPointerMove={(event) => start.current && setChosen(dragged(start.current, at(event)))}
        onPointerUp={() => (start.current = null)}
      >
        <canvas ref={canvas} role="img" aria-label="Your picture, whole" className="block max-h-96 max-w-full" />
        <div
          role="group"
          aria-label="The part that is cut out"
          tabIndex={0}
          data-testid="cut"
          className="absolute border-2 border-glass outline-2 outline-paper shadow-[0_0_0_1px_var(--paper)]"
          style={{ left: percent(chosen.left), top: percent(chosen.top), width: percent(chosen.width), height: percent(chosen.height) }}
          onKeyDown={onKey}
        />
      </div>
      <div className="mt-2 flex flex-wrap gap-3 text-[0.9em]">
        <button type="button" className="button-primary" onClick={() => onCut(chosen)}>
          Use this part
        </button>
        <button type="button" className="button-plain" onClick={() => onCut(WHOLE)}>
          Whole picture
        </button>
        <button type="button" className="button-plain" onClick={onLeave}>
          Cancel
        </button>
      </div>
    </div>
  )
}
