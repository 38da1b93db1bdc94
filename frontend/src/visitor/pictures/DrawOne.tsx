/** Drawing a picture for a model that was trained on pictures of any kind: black ink on white paper. */
import { useState } from 'react'
import type { Stroke } from '../../api/picture'
import { drawStrokes } from './ink'
import { FitBox } from './Pane'
import { Sheet, SHEET_SIDE } from './Sheet'

export interface DrawOneProps {
  onDrawn: (picture: File) => void
  onLeave: () => void
}

const LINE_WIDTH = 0.02

export function DrawOne({ onDrawn, onLeave }: DrawOneProps) {
  const [strokes, setStrokes] = useState<Stroke[]>([])
  const use = () => {
    const canvas = document.createElement('canvas')
    canvas.width = canvas.height = SHEET_SIDE
    const context = canvas.getContext('2d')
    if (!context) return
    drawStrokes(context, SHEET_SIDE, strokes, LINE_WIDTH, [255, 255, 255])
    canvas.toBlob((blob) => blob && onDrawn(new File([blob], 'drawing.png', { type: 'image/png' })))
  }
  return (
    <div className="absolute inset-0 flex flex-col" onKeyDown={(event) => event.key === 'Escape' && onLeave()}>
      <div className="relative min-h-0 flex-1 bg-line">
        <FitBox ratio={1}>
          <Sheet strokes={strokes} lineWidth={LINE_WIDTH} label="A sheet to draw on" onStrokes={setStrokes} />
        </FitBox>
      </div>
      <div className="flex flex-wrap gap-2 border-t border-line bg-paper px-3 py-2 text-[0.88em]">
        <button type="button" className="button-primary" aria-disabled={!strokes.length} onClick={() => strokes.length && use()}>
          Use this drawing
        </button>
        <button type="button" className="button-plain" aria-disabled={!strokes.length} onClick={() => setStrokes(strokes.slice(0, -1))}>
          Take back a stroke
        </button>
        <button type="button" className="button-plain" autoFocus onClick={onLeave}>
          Cancel
        </button>
      </div>
    </div>
  )
}
