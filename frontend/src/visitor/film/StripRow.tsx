/** One row of the strips: a mark for each frame, as high as the model's number, with a foot where it is what is said; of things that are counted a mark each, one above the other. */
import type { FilmFrame } from '../../api/client'
import { InlineMark, type Shape } from '../../parts/Mark'

export interface StripRowProps {
  label: string
  mark: { shape: Shape; colour: string }
  heights: number[]
  frames: FilmFrame[]
  /** How many marks stand above one another at the most, where things are counted; 1 for a number. */
  most: number
  /** The class that this row is; null where none is said. */
  saidAs: string | null
  from: number
  span: number
}

/** Of the drawing, in its own units. */
const WIDTH = 1000
const HEIGHT = 24
const WIDEST = 9

export function StripRow({ label, mark, heights, most, frames, saidAs, from, span }: StripRowProps) {
  const x = (seconds: number) => ((seconds - from) / span) * WIDTH
  const marks = frames.map((frame, at) => ({ frame, left: x(frame.at), right: x(frames[at + 1]?.at ?? frame.at + usualStep(frames)), height: heights[at] ?? 0 })).filter((one) => one.right > 0)
  return (
    <div className="film-row">
      <span className="film-row-label">
        <InlineMark {...mark} /> {label}
      </span>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none" className="block h-6 w-full" aria-hidden="true">
        <path d={marks.map(({ left, right, height }) => marksOf(left, right, height, most)).join('')} fill={mark.colour} />
        {saidAs && <path d={marks.filter(({ frame }) => frame.said === saidAs).map(({ left, right }) => `M${left} ${HEIGHT - 2.5}H${right}V${HEIGHT}H${left}Z`).join('')} fill={mark.colour} />}
        <path d={marks.filter(({ frame }) => frame.fault).map(({ left, right }) => `M${left} 0L${right} ${HEIGHT}`).join('')} stroke="var(--alert)" fill="none" vectorEffect="non-scaling-stroke" />
      </svg>
    </div>
  )
}

/** Narrow enough to be told from the next, and never wider than a mark is. */
function marksOf(left: number, right: number, height: number, most: number): string {
  if (height <= 0) return ''
  const width = Math.min(WIDEST, (right - left) * 0.6)
  if (most === 1) return `M${left} ${HEIGHT}V${HEIGHT * (1 - height)}H${left + width}V${HEIGHT}Z`
  const step = HEIGHT / most
  return Array.from({ length: Math.round(height * most) }, (_, at) => `M${left} ${HEIGHT - at * step}v${-0.72 * step}h${width}v${0.72 * step}Z`).join('')
}

function usualStep(frames: FilmFrame[]): number {
  const last = frames.at(-1)
  return frames.length > 1 && last ? (last.at - frames[0]!.at) / (frames.length - 1) : 0.2
}
