/** Marks set in fives, so that they can be counted: one mark is one of 100, or a stated amount. */
import { memo } from 'react'
import { shapePath, type Shape } from './Mark'

export type TallyShape = Shape | 'stroke' | 'up' | 'down'

const PITCH = 8
const HEIGHT = 11
const FIVE = 5
const RADIUS = 3.6

/** A mark in a cell of its own, from the cell's left edge. */
function cellPath(shape: TallyShape, x: number): string {
  switch (shape) {
    case 'stroke':
      return `M${x + 2} 0h3.4v${HEIGHT}h-3.4z`
    case 'down':
      return `M${x + PITCH / 2} 9.5l3.7 -7.6h-7.4z`
    default:
      return shapePath(shape === 'up' ? 'triangle' : shape, x + PITCH / 2, HEIGHT / 2, RADIUS)
  }
}

export interface TallyProps {
  count: number
  shape: TallyShape
  /** A CSS colour; the text's own if none is given. */
  colour?: string
  /** Smaller, where a row has many. */
  isFine?: boolean
}

/** Whoever does not see the marks reads the number beside them. */
export const Tally = memo(function Tally({ count, shape, colour = 'currentColor', isFine = false }: TallyProps) {
  const fives = Array.from({ length: Math.ceil(count / FIVE) }, (_, at) => Math.min(FIVE, count - at * FIVE))
  const size = isFine ? 0.75 : 1
  return (
    <span className="drawn flex flex-wrap gap-x-[4px] gap-y-1" aria-hidden="true" data-marks={count}>
      {fives.map((marks, at) => (
        <svg key={at} width={PITCH * FIVE * size} height={HEIGHT * size} viewBox={`0 0 ${PITCH * FIVE} ${HEIGHT}`} className="block shrink-0">
          <path d={Array.from({ length: marks }, (__, one) => cellPath(shape, one * PITCH)).join('')} fill={colour} fillRule="evenodd" />
        </svg>
      ))}
    </span>
  )
})

/** What one mark stands for: a round amount that gives the largest of these so many marks at the most. */
export function amountOfAMark(largest: number, most: number, smallest: number): number {
  const least = Math.max(largest / most, smallest)
  const power = 10 ** Math.floor(Math.log10(least))
  const step = [1, 2, 5, 10].find((one) => one * power >= least * (1 - 1e-9)) ?? 10
  return Number((step * power).toPrecision(12))
}
