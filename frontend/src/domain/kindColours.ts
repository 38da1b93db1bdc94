/** Colours and hatchings of many kinds, so that none has to be told by its colour alone. */

/** In their order; the server draws with the same. */
export const KIND_COLOURS = ['#1E6B6B', '#A23B2A', '#8A5A00', '#2F6F4F', '#5A4B8A', '#8A2F63', '#3B5B8C', '#5E5E2A'] as const

/** Lines across, falling, rising, down; from one kind to the next. */
export const HATCHINGS = ['none', 'falling', 'rising', 'down', 'across'] as const
export type Hatching = (typeof HATCHINGS)[number]

/** Of its lines, in pixels. */
const GAP = 9
const LINE = 2

export function colourOfKind(place: number): [number, number, number] {
  const hex = KIND_COLOURS[place % KIND_COLOURS.length]!
  return [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)) as [number, number, number]
}

export function hatchingOf(place: number): Hatching {
  return HATCHINGS[place % HATCHINGS.length]!
}

/** Whether a pixel lies on one of a kind's lines. */
export function isOnLine(hatching: Hatching, x: number, y: number): boolean {
  switch (hatching) {
    case 'none':
      return false
    case 'falling':
      return mod(x - y) < LINE
    case 'rising':
      return mod(x + y) < LINE
    case 'down':
      return mod(x) < LINE
    case 'across':
      return mod(y) < LINE
  }
}

function mod(value: number): number {
  return ((value % GAP) + GAP) % GAP
}
