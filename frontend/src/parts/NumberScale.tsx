/** Where a number lies among the outcomes of the author's table: how many there are at each height, and its own place. */
import { scaleLinear } from 'd3-scale'
import type { Answer, NumberSetting } from '../api/client'

export interface NumberScaleProps {
  answer: Extract<Answer, { kind: 'number' }>
  setting: NumberSetting
}

const HEIGHT = 40

export default function NumberScale({ answer, setting }: NumberScaleProps) {
  const { low, high, unit, decimals, counts } = setting
  if (low === null || low === undefined || high === null || high === undefined) return null
  const placeOf = scaleLinear([low, high], [0, 100]).clamp(true)
  const textOf = (end: number) => end.toFixed(decimals ?? 2)
  const most = Math.max(1, ...(counts ?? []))
  const { interval } = answer
  return (
    <figure className="mt-2">
      <div className="relative pt-1" aria-hidden="true">
        {counts && counts.length > 0 && (
          <svg viewBox={`0 0 ${counts.length} ${HEIGHT}`} preserveAspectRatio="none" className="drawn block h-10 w-full text-edge">
            {counts.map((count, at) => (
              // A bin has no identity but its place.
              <rect key={at} x={at + 0.08} width={0.84} y={HEIGHT - (HEIGHT * count) / most} height={(HEIGHT * count) / most} fill="currentColor" opacity={0.45} />
            ))}
          </svg>
        )}
        <div className={`border-b-2 border-edge ${counts?.length ? '' : 'h-5'}`} />
        {interval && (
          <span
            className="drawn absolute bottom-[-3px] h-2 border-x-2 border-ink bg-ink/25"
            style={{ left: `${placeOf(interval.low)}%`, width: `${placeOf(interval.high) - placeOf(interval.low)}%` }}
          />
        )}
        <span className="drawn absolute top-0 bottom-0 w-1 -translate-x-1/2 bg-glass transition-[left] duration-150" style={{ left: `${placeOf(answer.value)}%` }} />
      </div>
      <div className="mt-1 flex justify-between text-[0.82em] text-soft" aria-hidden="true">
        <span>{textOf(low)}</span>
        <span>outcomes in the author’s table</span>
        <span>
          {textOf(high)} {unit}
        </span>
      </div>
      <figcaption className="text-[0.92em] text-soft">{scaleWords(answer, setting, textOf)}</figcaption>
    </figure>
  )
}

/** The scale in words: its ends, and how many of 100 outcomes lie below the value. */
function scaleWords({ value, text, unit }: NumberScaleProps['answer'], { low, high, counts }: NumberSetting, textOf: (end: number) => string): string {
  const name = `${text} ${unit ?? ''}`.trim()
  if (low === null || low === undefined || high === null || high === undefined) return ''
  const ends = `The author’s table has outcomes from ${textOf(low)} to ${textOf(high)} ${unit ?? ''}`.trim()
  const all = counts?.reduce((sum, count) => sum + count, 0) ?? 0
  if (!counts?.length || all === 0 || high <= low) return `${ends}.`
  const width = (high - low) / counts.length
  const below = counts.reduce((sum, count, at) => sum + count * Math.min(1, Math.max(0, (value - (low + at * width)) / width)), 0)
  return `${ends}; about ${Math.round((100 * below) / all)} of 100 of them are below ${name}.`
}
