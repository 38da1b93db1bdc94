/** How the reference values of one field lie, small enough for a row. */
import type { Field } from '../../api/client'
import { fieldNumberText, listText } from '../../domain/format'

const WIDTH = 96
const HEIGHT = 26
const OPTIONS_DRAWN = 24
const OPTIONS_SAID = 5

export function Histogram({ field }: { field: Field }) {
  const bars = barsOf(field)
  const most = Math.max(1, ...bars.counts)
  if (bars.counts.length === 0) return null
  const width = WIDTH / bars.counts.length
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none" className="h-6.5 w-full" role="img" aria-label={bars.words}>
      <path d={`M0 ${HEIGHT - 0.5}H${WIDTH}`} stroke="var(--edge)" />
      {bars.counts.map((count, index) => (
        <rect
          key={index}
          x={index * width + 0.5}
          y={HEIGHT - 1 - (count / most) * (HEIGHT - 2)}
          width={Math.max(1, width - 1)}
          height={(count / most) * (HEIGHT - 2)}
          fill="var(--edge)"
        />
      ))}
    </svg>
  )
}

function barsOf(field: Field): { counts: number[]; words: string } {
  if (field.kind === 'number') {
    const { low, high, usual_low, usual_high, counts } = field.seen
    const [from, to, usualFrom, usualTo] = [low, high, usual_low, usual_high].map((value) => fieldNumberText(field, value))
    return { counts, words: `Reference values from ${from} to ${to}, half of them from ${usualFrom} to ${usualTo}` }
  }
  // Of a function without a table nothing is counted.
  if (field.kind === 'choice' && field.options.some((option) => option.count)) {
    const words = field.options.slice(0, OPTIONS_SAID).map((option) => `${option.count} ${option.label}`)
    return { counts: field.options.slice(0, OPTIONS_DRAWN).map((option) => option.count ?? 0), words: `Reference rows: ${listText(words)}` }
  }
  return { counts: [], words: '' }
}
