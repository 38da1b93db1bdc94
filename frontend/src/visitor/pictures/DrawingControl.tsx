/** A sheet to draw on: pen, finger or mouse; asked about while it is drawn on. The sheet is a pane like any picture's. */
import { useContext } from 'react'
import type { DrawingField, InputValue } from '../../api/client'
import { isPicture, WHOLE, type PictureValue, type Stroke } from '../../api/picture'
import { CaseContext } from '../case/caseContext'
import { FieldHead } from '../fields/FieldHead'
import type { ControlIds } from '../fields/FieldRow'
import { FitBox, Pane } from './Pane'
import { Sheet, strokeWords } from './Sheet'
import { StrokesFrost } from './StrokesFrost'
import type { FieldWhy } from '../../domain/why'

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
  const { seen, samples, where, nameOfOutput, onTry } = useContext(CaseContext)
  const set = (next: Stroke[]) => onChange(next.length ? { strokes: next, cut: WHOLE, turn: 0 } : null)
  const looked = where.find((one) => one.field === field.name && one.parts === 'strokes' && one.contributions.length === strokes.length) ?? null
  const { width, height } = field.preparation
  const way = (words: string, act: () => void) => (
    <button type="button" className="button-quiet aria-disabled:opacity-55" aria-disabled={!strokes.length} onClick={() => strokes.length && act()}>
      {words}
    </button>
  )
  return (
    <div role="group" aria-labelledby={ids.label} tabIndex={-1} className="picture-field">
      <FieldHead
        why={why}
        label={
          <span id={ids.label} className="font-bold">
            {field.label}
          </span>
        }
      />
      <Pane
        isSquare
        ways={
          <>
            <span className="text-soft first-letter:uppercase">{strokeWords(strokes.length)}</span>
            <span className="ml-auto flex gap-x-4">
              {way('Take back a stroke', () => set(strokes.slice(0, -1)))}
              {way('Clear', () => onChange(null))}
            </span>
          </>
        }
        under={
          <div className="mt-2 text-[0.85em] text-soft">
            <div id={`${ids.control}-how`}>
              {samples.length > 0 && (
                <p>
                  Without a pen, try{' '}
                  {samples.map((sample, at) => (
                    <span key={sample.title}>
                      {at > 0 && (at === samples.length - 1 ? ' or ' : ', ')}
                      <button type="button" className="button-quiet py-0!" onClick={() => onTry(sample.inputs as Record<string, InputValue>)}>
                        {sample.title}
                      </button>
                    </span>
                  ))}
                  .
                </p>
              )}
            </div>
            {/* Room for what comes with an answer is kept from the start. */}
            <div className="mt-1 flex min-h-32 items-start justify-between gap-6">
              <p className="min-w-0 flex-1">
                {looked && strokes.length > 1 && `Full ink: strokes that spoke for “${nameOfOutput(looked.of)}”. Frosted: those that hardly mattered. Dashed, ▼: those against.`}
              </p>
              {seen[field.name] && strokes.length > 0 && (
                <figure className="w-24 shrink-0">
                  <img src={seen[field.name]} alt="Your drawing as the model sees it" width={72} className="ml-auto border border-line [image-rendering:pixelated]" />
                  <figcaption className="text-right leading-tight">
                    As the model sees it: {`${width}\u00a0×\u00a0${height}`}
                  </figcaption>
                </figure>
              )}
            </div>
          </div>
        }
      >
        <FitBox ratio={1}>
          <Sheet
            strokes={strokes}
            lineWidth={field.line_width ?? 0.07}
            paper={field.behind}
            id={ids.control}
            label={field.label}
            describedBy={[ids.describedBy, `${ids.control}-how`].filter(Boolean).join(' ')}
            onStrokes={set}
          />
          {looked && strokes.length > 1 && <StrokesFrost strokes={strokes} contributions={looked.contributions} paper={field.behind} lineWidth={field.line_width ?? 0.07} />}
        </FitBox>
      </Pane>
    </div>
  )
}
