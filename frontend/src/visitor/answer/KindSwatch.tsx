/** A small piece of a kind's colour, with its lines, as it lies over the picture. */
import { hatchingOf, KIND_COLOURS, type Hatching } from '../../domain/kindColours'

const LINES: Record<Hatching, string> = {
  none: '',
  falling: 'M-4 0L16 20M4 0L24 20M12 0L32 20M-12 0L8 20',
  rising: 'M-4 20L16 0M4 20L24 0M12 20L32 0M-12 20L8 0',
  down: 'M4 0V16M12 0V16M20 0V16',
  across: 'M0 4H24M0 12H24',
}

export function KindSwatch({ place }: { place: number }) {
  return (
    <svg viewBox="0 0 24 16" className="h-4 w-6 shrink-0" aria-hidden="true">
      <rect width="24" height="16" fill={KIND_COLOURS[place % KIND_COLOURS.length]} opacity="0.6" />
      <path d={LINES[hatchingOf(place)]} stroke={KIND_COLOURS[place % KIND_COLOURS.length]} strokeWidth="2" fill="none" />
      <rect x="0.75" y="0.75" width="22.5" height="14.5" fill="none" stroke={KIND_COLOURS[place % KIND_COLOURS.length]} strokeWidth="1.5" />
    </svg>
  )
}
