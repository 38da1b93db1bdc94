/** One class's mark: a shape and a shade of its own, so that neither has to be told by colour alone. */
import type { ClassWording } from '../api/client'

export const SHAPES = ['square', 'ring', 'triangle', 'diamond'] as const
export type Shape = (typeof SHAPES)[number]

/** A class's place in the demo decides its mark; it stays the same whatever the answer. */
export function markOf(index: number, wording: Pick<ClassWording, 'tone'> | undefined): { shape: Shape; colour: string } {
  const shape = SHAPES[index % SHAPES.length]!
  const colour = wording?.tone ? `var(--${wording.tone})` : `var(--mark-${(index % SHAPES.length) + 1})`
  return { shape, colour }
}

export interface MarkProps {
  shape: Shape
  colour: string
  /** Centre, in the units of the surrounding SVG. */
  x: number
  y: number
  /** Half the width. */
  radius: number
}

/** One mark inside an SVG. */
export function Mark({ shape, colour, x, y, radius }: MarkProps) {
  return <path d={shapePath(shape, x, y, radius)} fill={colour} fillRule="evenodd" />
}

/** A mark's outline around a centre; a ring is the ground between two circles. */
export function shapePath(shape: Shape, x: number, y: number, r: number): string {
  switch (shape) {
    case 'square':
      return `M${x - r} ${y - r}h${2 * r}v${2 * r}h${-2 * r}z`
    case 'ring':
      return `${circle(x, y, r * 1.03)}${circle(x, y, r * 0.61)}`
    case 'triangle':
      return `M${x} ${y - r}L${x + r} ${y + r}H${x - r}Z`
    case 'diamond':
      return `M${x} ${y - r * 1.1}L${x + r * 1.1} ${y}L${x} ${y + r * 1.1}L${x - r * 1.1} ${y}Z`
  }
}

function circle(x: number, y: number, r: number): string {
  return `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`
}

/** A mark standing in a line of text. */
export function InlineMark({ shape, colour }: Pick<MarkProps, 'shape' | 'colour'>) {
  return (
    <svg viewBox="0 0 12 12" className="inline-block h-[0.8em] w-[0.8em]" aria-hidden="true">
      <Mark shape={shape} colour={colour} x={6} y={6} radius={5} />
    </svg>
  )
}
