/** A number that can be dragged or typed. */
import type { NumberField } from '../../api/client'
import { numberText } from '../../domain/format'
import { LabelledHead } from './FieldHead'
import type { ControlIds } from './FieldRow'
import { entryText } from '../../domain/numbers'
import { readNumber, SIGNS } from '../../domain/formState'
import { Ribbon } from './Ribbon'
import { useTouchSlide } from './touchSlide'
import type { FieldWhy } from '../../domain/why'

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
  const slide = useTouchSlide((next) => onChange(entryText(next, SIGNS)))
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
            className="input-line w-[4.4em] text-right font-bold"
            inputMode="decimal"
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
        <p className="text-[0.85em] text-soft">Every case in the author’s table has {numberText(minimum)} here.</p>
      ) : (
        <div className="curved">
          <div data-place="ribbon" className="min-h-12">
            {why && (
              <Ribbon
                why={why}
                label={field.label}
                unit={field.unit ?? ''}
                minimum={minimum}
                maximum={maximum}
                value={value}
                placeOf={(at) => placeOf(at, field)}
              />
            )}
          </div>
          <div className="relative">
            <span
              className="drawn pointer-events-none absolute top-1/2 h-1.5 -translate-y-1/2 bg-line"
              style={usualPlace(field, usual)}
              aria-hidden="true"
            />
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
              aria-valuetext={value === null ? 'not known' : `${numberText(value)} ${field.unit}`.trim()}
            />
          </div>
          <div className="relative flex justify-between text-[0.8em] text-soft" aria-hidden="true">
            <span>{numberText(minimum)}</span>
            {usual.from < usual.to && (
              <span className="absolute -translate-x-1/2 whitespace-nowrap" style={{ left: usualWordsPlace(field, usual) }}>
                usually {numberText(usual.from)} to {numberText(usual.to)}
              </span>
            )}
            <span>{numberText(maximum)}</span>
          </div>
        </div>
      )}
    </>
  )
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
