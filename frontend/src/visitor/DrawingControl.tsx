/** A sheet to draw on: pen, finger or mouse; asked about while it is drawn on. */
import { useContext } from 'react'
import type { DrawingField, InputValue } from '../api/client'
import { isPicture, WHOLE, type PictureValue, type Stroke } from '../api/picture'
import { CaseContext } from './caseContext'
import { FieldHead } from './FieldHead'
import type { ControlIds } from './FieldRow'
import { Sheet } from './Sheet'
import type { FieldWhy } from './why'

export interface DrawingControlProps {
  field: DrawingField
  value: InputValue
  ids: ControlIds
  why: FieldWhy | null
  onChange: (value: PictureValue | null) => void
}

const NO_STROKES: Stroke[] = []

export function DrawingControl({ field, value, ids, why, onChange }: DrawingControlProps) {
  const strokes = (isPicture(value) && value.strokes) || NO_STROKES
  const { seen, samples, onTry } = useContext(CaseContext)
  const set = (next: Stroke[]) => onChange(next.length ? { strokes: next, cut: WHOLE, turn: 0 } : null)
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
        <Sheet
          strokes={strokes}
          lineWidth={field.line_width ?? 0.07}
          paper={field.behind}
          id={ids.control}
          labelledBy={ids.label}
          describedBy={ids.describedBy}
          onStrokes={set}
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
