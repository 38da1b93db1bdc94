/** Where a number lies among the outcomes of the author's table: how many there are at each height, and its own place. */
import type { NumberSetting } from '../api/client'

export interface NumberScaleProps {
  value: number
  /** The value as the page says it. */
  text: string
  setting: NumberSetting
}

const HEIGHT = 40

export function NumberScale({ value, text, setting }: NumberScaleProps) {
  const { low, high, unit, decimals, counts } = setting
  if (low === null || low === undefined || high === null || high === undefined) return null
  const share = high > low ? Math.min(1, Math.max(0, (value - low) / (high - low))) : 0.5
  const said = (end: number) => end.toFixed(decimals ?? 2)
  const most = Math.max(1, ...(counts ?? []))
  return (
    <div className="mt-4">
      <div className="relative" role="img" aria-label={scaleWords(value, text, setting, said)}>
        {counts && counts.length > 0 && (
          <svg viewBox={`0 0 ${counts.length} ${HEIGHT}`} preserveAspectRatio="none" className="block h-10 w-full text-edge" aria-hidden="true">
            {counts.map((count, at) => (
              // A bin has no identity but its place.
              <rect key={at} x={at + 0.08} width={0.84} y={HEIGHT - (HEIGHT * count) / most} height={(HEIGHT * count) / most} fill="currentColor" opacity={0.45} />
            ))}
          </svg>
        )}
        <div className={`border-b-2 border-edge ${counts?.length ? '' : 'h-5'}`} />
        <span className="absolute top-0 bottom-0 w-1 -translate-x-1/2 bg-glass transition-[left] duration-150" style={{ left: `${share * 100}%` }} />
      </div>
      <div className="mt-1 flex justify-between text-[0.82em] text-soft">
        <span>{said(low)}</span>
        <span>cases of the author’s table</span>
        <span>
          {said(high)} {unit}
        </span>
      </div>
    </div>
  )
}

/** The scale in words: its ends, and how many of 100 outcomes lie below the value. */
function scaleWords(value: number, text: string, { low, high, unit, counts }: NumberSetting, said: (end: number) => string): string {
  const ends = `The author’s table has outcomes from ${said(low ?? 0)} to ${said(high ?? 0)} ${unit ?? ''}`.trim()
  const all = counts?.reduce((sum, count) => sum + count, 0) ?? 0
  if (!counts?.length || all === 0 || low === null || low === undefined || high === null || high === undefined || high <= low) return `${ends}.`
  const width = (high - low) / counts.length
  const below = counts.reduce((sum, count, at) => sum + count * Math.min(1, Math.max(0, (value - (low + at * width)) / width)), 0)
  return `${ends}; about ${Math.round((100 * below) / all)} of 100 lie below ${text}.`
}
