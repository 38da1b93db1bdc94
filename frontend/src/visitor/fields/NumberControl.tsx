/** A number that can be dragged or typed; a date, where it stands for one. */
import { lazy, Suspense } from 'react'
import type { NumberField } from '../../api/client'
import { fieldNumberText } from '../../domain/format'
import { LabelledHead } from './FieldHead'
import type { ControlIds } from './FieldRow'
import { fieldEntry, readNumber } from '../../domain/formState'
import { useTouchSlide } from './touchSlide'
import type { FieldWhy } from '../../domain/why'

/** Nobody needs it before the first answer. */
const Ribbon = lazy(() => import('./Ribbon'))

/** Half the thumb: where its centre starts and ends on the slider, in pixels. */
const THUMB_RADIUS_PX = 11

export interface NumberControlProps {
  field: NumberField
  /** As typed; null for "not known". */
  text: string | null
  ids: ControlIds
  why: FieldWhy | null
  onChange: (text: string) => void
}

export function NumberControl({ field, text, ids, why, onChange }: NumberControlProps) {
  const { minimum, maximum, step, seen } = field
  const value = text === null ? null : readNumber(field, text)
  const isFixed = minimum === maximum
  // Of a function without a table nobody knows what is usual.
  const isCounted = (seen.source ?? 'table') === 'table'
  const endText = (at: number) => fieldNumberText(field, at)
  const slide = useTouchSlide((next) => onChange(fieldEntry(field, next)))
  const usual = {
    from: Math.max(toStep(seen.usual_low, step), minimum),
    to: Math.min(toStep(seen.usual_high, step), maximum),
  }
  return (
    <>
      <LabelledHead label={field.label} ids={ids} why={why}>
        <span className="flex items-baseline gap-2">
          <input
            id={ids.control}
            {...entryKind(field)}
            autoComplete="off"
            value={text ?? ''}
            placeholder={text === null ? '–' : undefined}
            aria-describedby={ids.describedBy}
            aria-invalid={ids.isInvalid}
            onChange={(event) => onChange(event.target.value)}
          />
          {field.unit && <span className="text-soft">{field.unit}</span>}
        </span>
      </LabelledHead>
      {isFixed ? (
        <p className="text-[0.85em] text-soft">{isCounted ? `Every case in the author’s table has ${endText(minimum)} here.` : `It is always ${endText(minimum)} here.`}</p>
      ) : (
        <div className="curved">
          <div data-place="ribbon" className="min-h-12">
            {why && (
              <Suspense>
                <Ribbon
                  why={why}
                  label={field.label}
                  textOf={(at) => `${endText(at)} ${field.unit}`.trim()}
                  minimum={minimum}
                  maximum={maximum}
                  value={value}
                  placeOf={(at) => placeOf(at, field)}
                />
              </Suspense>
            )}
          </div>
          <div className="relative">
            {isCounted && (
              <span
                className="drawn pointer-events-none absolute top-1/2 h-1.5 -translate-y-1/2 bg-line"
                style={usualPlace(field, usual)}
                aria-hidden="true"
              />
            )}
            <input
              {...slide}
              type="range"
              className="slider relative"
              min={minimum}
              max={maximum}
              step={step}
              value={value ?? (minimum + maximum) / 2}
              data-unknown={value === null}
              aria-labelledby={ids.label}
              aria-describedby={ids.describedBy}
              aria-valuetext={value === null ? 'not known' : `${endText(value)} ${field.unit}`.trim()}
            />
          </div>
          <div className="relative flex justify-between text-[0.8em] text-soft" aria-hidden="true">
            <span>{endText(minimum)}</span>
            {isCounted && usual.from < usual.to && (
              <span className={`absolute -translate-x-1/2 whitespace-nowrap ${field.calendar ? 'max-[480px]:hidden' : ''}`} style={{ left: usualWordsPlace(field, usual) }}>
                usually {endText(usual.from)} to {endText(usual.to)}
              </span>
            )}
            <span>{endText(maximum)}</span>
          </div>
        </div>
      )}
    </>
  )
}

/** What is typed into: a line for a number, the browser's own calendar for a date. */
function entryKind(field: NumberField) {
  if (!field.calendar) return { className: 'input-line w-[4.4em] text-right font-bold', inputMode: 'decimal' } as const
  return { className: 'input-line font-bold', type: 'date' } as const
}

/** No finer than the slider goes. */
function toStep(value: number, step: number): number {
  return Math.round(value / step) * step
}

interface Range {
  from: number
  to: number
}

/** Where a value stands on the slider's own axis, as a CSS length. */
function placeOf(value: number, { minimum, maximum }: NumberField): string {
  const share = (value - minimum) / (maximum - minimum)
  return `calc(${share * 100}% + ${THUMB_RADIUS_PX - 2 * THUMB_RADIUS_PX * share}px)`
}

/** The middle half of the reference values. */
function usualPlace(field: NumberField, { from, to }: Range) {
  const left = placeOf(from, field)
  return { left, width: `calc(${placeOf(Math.max(to, from), field)} - ${left})` }
}

/** Under the middle of it, but clear of the numbers at both ends. */
function usualWordsPlace(field: NumberField, { from, to }: Range): string {
  return `clamp(28%, ${placeOf((from + to) / 2, field)}, 72%)`
}
