/** The response curve under a slider, on the slider's own axis: the thumb stands on the curve. */
import { scaleLinear } from 'd3-scale'
import type { Curve } from '../../api/client'
import { amountText, answerWords, curveAt, type FieldWhy } from '../../domain/why'

const WIDTH = 1000
const HEIGHT = 100

export interface RibbonProps {
  why: FieldWhy
  label: string
  /** A value in words, with its unit. */
  textOf: (value: number) => string
  minimum: number
  maximum: number
  /** Null while it is not known. */
  value: number | null
  /** Where a value stands on the slider, as a CSS length. */
  placeOf: (value: number) => string
}

export default function Ribbon({ why, label, textOf, minimum, maximum, value, placeOf }: RibbonProps) {
  const { curve, domain } = why
  if (!curve || curve.shape === 'options') return null
  const top = (y: number) => HEIGHT - ((y - domain[0]) / (domain[1] - domain[0] || 1)) * HEIGHT
  const line = pathOf(curve, minimum, maximum, top)
  const here = value === null ? null : curveAt(curve, value)
  return (
    <div className="drawn relative h-12" role="img" aria-label={wordsOf(why, curve, label, textOf, minimum, maximum)}>
      <svg
        className="absolute inset-x-[11px] h-full w-[calc(100%-22px)]"
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <path d={`${line} V${HEIGHT} H0 Z`} fill="var(--glass-pale)" />
        <path d={line} fill="none" stroke="var(--glass)" strokeWidth="2" vectorEffect="non-scaling-stroke" />
      </svg>
      <EndValue at={curveAt(curve, minimum)} side="left" why={why} top={top} />
      <EndValue at={curveAt(curve, maximum)} side="right" why={why} top={top} />
      {here !== null && value !== null && value >= minimum && value <= maximum && (
        <>
          <span
            className="absolute bottom-0 w-0 border-l border-dotted border-ink"
            style={{ left: placeOf(value), top: `${top(here)}%` }}
            aria-hidden="true"
          />
          <span
            className="absolute size-2.5 -translate-1/2 rounded-full border-2 border-paper bg-ink"
            style={{ left: placeOf(value), top: `${top(here)}%` }}
            aria-hidden="true"
          />
          <span
            className={`at-thumb absolute bg-paper px-1 text-[0.85em] leading-tight font-bold -translate-x-1/2 -translate-y-[150%]`}
            style={{ left: placeOf(value), top: `${top(here)}%` }}
            aria-hidden="true"
          >
            {amountText(here, why.scale)}
          </span>
        </>
      )}
    </div>
  )
}

interface EndValueProps {
  at: number | null
  side: 'left' | 'right'
  why: FieldWhy
  top: (y: number) => number
}

/** What the answer is at an end of the slider: over the curve where there is room, else under it. */
function EndValue({ at, side, why, top }: EndValueProps) {
  if (at === null) return null
  const place = top(at)
  return (
    <span
      className={`absolute text-[0.74em] leading-none text-soft ${side === 'left' ? 'left-[13px]' : 'right-[13px]'} ${place > 38 ? '-translate-y-[125%]' : 'translate-y-[30%]'}`}
      style={{ top: `${place}%` }}
      aria-hidden="true"
    >
      {amountText(at, why.scale)}
    </span>
  )
}

function pathOf(curve: Curve, minimum: number, maximum: number, top: (y: number) => number): string {
  const x = curve.x as number[]
  const left = scaleLinear([minimum, maximum], [0, WIDTH]).clamp(true)
  const start = `M0 ${top(curve.y[0] ?? 0).toFixed(1)}`
  const parts = x.map((value, at) => {
    const [across, down] = [left(value).toFixed(1), top(curve.y[at] ?? 0).toFixed(1)]
    return curve.shape === 'steps' ? `H${across} V${down}` : `L${across} ${down}`
  })
  return [start, ...parts, `H${WIDTH}`].join(' ')
}

/** The curve in a sentence, for those who do not see it. */
function wordsOf(why: FieldWhy, curve: Curve, label: string, textOf: (value: number) => string, minimum: number, maximum: number): string {
  const at = (value: number) => `${answerWords(curveAt(curve, value) ?? 0, why.scale)} at ${textOf(value)}`
  const lowest = Math.min(...curve.y)
  const highest = Math.max(...curve.y)
  if (answerWords(lowest, why.scale) === answerWords(highest, why.scale)) {
    return `If only ${label} moved, nothing would change.`
  }
  const range = `lowest ${answerWords(lowest, why.scale)}, highest ${answerWords(highest, why.scale)}`
  return `If only ${label} moved (${why.of}): ${at(minimum)}, ${at(maximum)}; ${range}.`
}
