/** Cutting a part out of a picture: drawn with the pointer, or moved and sized with the arrow keys. */
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { WHOLE, type Cut } from '../../api/picture'
import { cutWords, dragged, moved, sized } from '../../domain/cut'
import { FitBox } from './Pane'
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
  const frame = useRef<HTMLDivElement>(null)
  // A canvas is drawn on by hand.
  useEffect(() => {
    if (canvas.current) drawPicture(canvas.current, image, WHOLE, 0)
  }, [image])
  // Whoever came here by keys goes on with keys.
  useEffect(() => frame.current?.focus(), [])

  const at = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect()
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
  }
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, -STEP], ArrowDown: [0, STEP] }[event.key]
    if (event.key === 'Enter') return (event.preventDefault(), onCut(chosen))
    if (!by) return
    event.preventDefault()
    const [across = 0, down = 0] = by
    setChosen(event.shiftKey ? sized(chosen, across, down) : moved(chosen, across, down))
  }
  const percent = (share: number) => `${share * 100}%`
  return (
    <div className="absolute inset-0 flex flex-col" onKeyDown={(event) => event.key === 'Escape' && onLeave()}>
      <div className="relative min-h-0 flex-1">
        <FitBox ratio={image.width / image.height}>
          <div
            className="absolute inset-0 cursor-crosshair touch-none"
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId)
              start.current = at(event)
            }}
            onPointerMove={(event) => start.current && setChosen(dragged(start.current, at(event)))}
            onPointerUp={() => (start.current = null)}
          >
            <canvas ref={canvas} role="img" aria-label="Your picture, whole" className="block size-full" />
            <div
              ref={frame}
              role="group"
              aria-roledescription="frame"
              aria-label={`The part that is cut out: ${cutWords(chosen)}`}
              aria-describedby="cut-help"
              tabIndex={0}
              data-testid="cut"
              className="cut-frame absolute"
              style={{ left: percent(chosen.left), top: percent(chosen.top), width: percent(chosen.width), height: percent(chosen.height) }}
              onKeyDown={onKey}
            />
          </div>
        </FitBox>
      </div>
      <div className="border-t border-line bg-paper px-3 py-2 text-[0.88em]">
        <p id="cut-help" className="text-soft">
          Draw a frame around what counts. With the keyboard: arrows move it, with Shift they size it; Enter uses it, Escape leaves.
        </p>
        <p role="status" className="sr-only">
          {cutWords(chosen)}
        </p>
        <div className="mt-1.5 flex flex-wrap gap-2">
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
    </div>
  )
}
