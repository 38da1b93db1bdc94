/** Frames around a part of a picture, in shares of it: pure functions. */
import { WHOLE, type Cut } from '../api/picture'

const SMALLEST = 0.02

interface Place {
  x: number
  y: number
}

/** The frame between two places; a click alone means the whole picture. */
export function dragged(from: Place, to: Place): Cut {
  const [left, right] = ends(from.x, to.x)
  const [top, bottom] = ends(from.y, to.y)
  if (right - left < SMALLEST || bottom - top < SMALLEST) return WHOLE
  return { left, top, width: right - left, height: bottom - top }
}

/** The frame a little further on, never over the edge. */
export function moved(cut: Cut, across: number, down: number): Cut {
  return { ...cut, left: clamp(cut.left + across, 0, 1 - cut.width), top: clamp(cut.top + down, 0, 1 - cut.height) }
}

/** The frame a little larger or smaller, from its upper left corner. */
export function sized(cut: Cut, across: number, down: number): Cut {
  return { ...cut, width: clamp(cut.width + across, SMALLEST, 1 - cut.left), height: clamp(cut.height + down, SMALLEST, 1 - cut.top) }
}

function ends(one: number, other: number): [number, number] {
  return [clamp(Math.min(one, other), 0, 1), clamp(Math.max(one, other), 0, 1)]
}

function clamp(value: number, low: number, high: number): number {
  return Math.min(high, Math.max(low, value))
}

/** Place and size in words, in hundredths of the picture: "from 10 left and 5 down, 80 wide and 90 high, of 100". */
export function cutWords({ left, top, width, height }: Cut): string {
  const of100 = (share: number) => Math.round(share * 100)
  if (of100(width) === 100 && of100(height) === 100) return 'all of the picture'
  return `from ${of100(left)} across and ${of100(top)} down, ${of100(width)} wide and ${of100(height)} high, of 100`
}
