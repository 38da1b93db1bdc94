/** How a column's values lie, small enough for a row. */
import type { StarterColumn } from '../../api/client'

const WIDTH = 72
const HEIGHT = 24

export function ValueBars({ column }: { column: StarterColumn }) {
  const counts = column.counts?.length ? column.counts : (column.common ?? []).map(({ rows }) => rows)
  // Of very many values the first few say nothing of how they lie.
  const isPart = !column.counts?.length && column.n_distinct > counts.length * 2
  if (counts.length === 0 || isPart || column.kind === 'identifier' || column.kind === 'constant') return <span />
  const most = Math.max(...counts)
  const width = WIDTH / counts.length
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none" className="h-6 w-full" role="img" aria-label={wordsOf(column)}>
      <path d={`M0 ${HEIGHT - 0.5}H${WIDTH}`} stroke="var(--edge)" />
      {counts.map((count, index) => (
        <rect key={index} x={index * width + 0.5} y={HEIGHT - 1 - (count / most) * (HEIGHT - 2)} width={Math.max(1, width - 1)} height={(count / most) * (HEIGHT - 2)} fill="var(--edge)" />
      ))}
    </svg>
  )
}

function wordsOf({ counts = [], common = [] }: StarterColumn): string {
  if (counts.length > 0) return `Rows in each of ${counts.length} equal parts of its range: ${counts.join(', ')}`
  return common.map(({ value, rows }) => `${value}: ${rows} rows`).join('; ')
}
