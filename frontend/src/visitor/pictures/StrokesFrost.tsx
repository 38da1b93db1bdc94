/** Which strokes counted, in the drawing itself: full ink where they spoke for it, frosted where they hardly mattered. */
import type { Stroke } from '../../api/picture'
import { strengths } from '../../domain/regions'

export interface StrokesFrostProps {
  strokes: Stroke[]
  contributions: number[]
  /** Red, green and blue of the paper. */
  paper?: number[]
  lineWidth: number
}

const WHITE = [255, 255, 255]
const AGAINST_FROM = 0.15

export function StrokesFrost({ strokes, contributions, paper = WHITE, lineWidth }: StrokesFrostProps) {
  const shares = strengths(contributions)
  const colour = `rgb(${paper.join(' ')})`
  return (
    <svg viewBox="0 0 1 1" className="drawn pointer-events-none absolute inset-0 size-full" aria-hidden="true" data-testid="strokes-frost">
      {strokes.map((stroke, at) => {
        const share = shares[at] ?? 0
        const points = stroke.map(([x, y]) => `${x},${y}`).join(' ')
        const line = { fill: 'none', strokeLinecap: 'round', strokeLinejoin: 'round', points } as const
        return (
          <g key={at}>
            <polyline {...line} stroke={colour} strokeWidth={lineWidth * 1.25} opacity={0.8 * (1 - Math.min(1, Math.max(0, share) ** 0.7))} />
            {share <= -AGAINST_FROM && <polyline {...line} stroke="#a85b00" strokeWidth={lineWidth * 0.45} strokeDasharray={`${lineWidth * 0.5} ${lineWidth * 1.1}`} />}
            <text
              x={Math.min(0.93, Math.max(0.02, (stroke[0]?.[0] ?? 0) + 0.03))}
              y={Math.min(0.97, Math.max(0.06, (stroke[0]?.[1] ?? 0) - 0.03))}
              fontSize={0.045}
              fontWeight={700}
              paintOrder="stroke"
              stroke="#faf8f3"
              strokeWidth={0.012}
              fill="#20302f"
            >
              {at + 1}
              {share >= AGAINST_FROM ? '▲' : share <= -AGAINST_FROM ? '▼' : ''}
            </text>
          </g>
        )
      })}
    </svg>
  )
}
