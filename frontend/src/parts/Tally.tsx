/** Marks set in fives, so that they can be counted: one mark is one of 100, or a stated amount. */
import { memo } from 'react'
import type { Shape } from './Mark'

export type TallyShape = Shape | 'stroke' | 'up' | 'down'

const PITCH = 8
const HEIGHT = 11
const FIVE = 5

/** Each shape in a cell of its own, as a path from its upper left corner. */
const PATHS: Record<TallyShape, (x: number) => string> = {
  stroke: (x) => `M${x + 2} 0h3.4v${HEIGHT}h-3.4z`,
  square: (x) => `M${x + 0.7} 2.2h6.6v6.6h-6.6z`,
  ring: (x) => `M${x + 0.5} 5.5a3.5 3.5 0 1 0 7 0a3.5 3.5 0 1 0 -7 0zM${x + 2} 5.5a2 2 0 1 1 4 0a2 2 0 1 1 -4 0z`,
  triangle: (x) => `M${x + 4} 1.5l3.7 7.6h-7.4z`,
  diamond: (x) => `M${x + 4} 1.2l3.7 4.3l-3.7 4.3l-3.7 -4.3z`,
  up: (x) => `M${x + 4} 1.5l3.7 7.6h-7.4z`,
  down: (x) => `M${x + 4} 9.5l3.7 -7.6h-7.4z`,
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
          <path d={Array.from({ length: marks }, (__, one) => PATHS[shape](one * PITCH)).join('')} fill={colour} fillRule="evenodd" />
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
