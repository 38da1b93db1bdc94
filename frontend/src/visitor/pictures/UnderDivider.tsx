/** What was given on the left of a divider, what was made on its right; dragged, or moved by keys. */
import { useRef } from 'react'
import type { MadeView } from './madeView'
import { Pixels } from './Pixels'

const KEY_STEP = 0.02
const LARGE_KEY_STEP = 0.1

export function UnderDivider({ view: { made, share, onShare }, image }: { view: MadeView; image: ImageBitmap }) {
  const frame = useRef<HTMLDivElement>(null)
  if (made.answer.kind !== 'picture' || made.setting.kind !== 'picture') return null
  const { name, before } = made.setting
  const drag = (event: React.PointerEvent) => {
    const box = frame.current?.getBoundingClientRect()
    if (box && event.buttons & 1) onShare(clamp((event.clientX - box.left) / box.width))
  }
  const move = (event: React.KeyboardEvent) => {
    const to = movedBy(event.key, event.shiftKey, share)
    if (to === null) return
    event.preventDefault()
    onShare(to)
  }
  return (
    <div ref={frame} className="absolute inset-0 touch-pan-y select-none" onPointerDown={(event) => (event.currentTarget.setPointerCapture(event.pointerId), drag(event))} onPointerMove={drag}>
      <div className="absolute inset-0" style={{ clipPath: `inset(0 0 0 ${100 * share}%)` }}>
        <Pixels image={image} part={made.answer.part ?? {}} label={`The answer: ${name}`} />
      </div>
      <div
        role="slider"
        tabIndex={0}
        aria-label={`Divider: ${before} on its left, ${name} on its right`}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(100 * share)}
        aria-valuetext={`${Math.round(100 * share)} of 100 ${before}`}
        className="divider"
        style={{ left: `${100 * share}%` }}
        onKeyDown={move}
      >
        <span className="divider-grip" aria-hidden="true" />
      </div>
      {share > 0.15 && <span className="divider-word left-2">{before}</span>}
      {share < 0.85 && <span className="divider-word right-2">{name}</span>}
    </div>
  )
}

/** Where a key moves a divider; null for other keys. */
function movedBy(key: string, isLarge: boolean, share: number): number | null {
  const step = isLarge ? LARGE_KEY_STEP : KEY_STEP
  const to: Record<string, number> = { ArrowLeft: share - step, ArrowDown: share - step, ArrowRight: share + step, ArrowUp: share + step, PageDown: share - LARGE_KEY_STEP, PageUp: share + LARGE_KEY_STEP, Home: 0, End: 1 }
  return key in to ? clamp(to[key]!) : null
}

function clamp(share: number): number {
  return Math.min(1, Math.max(0, share))
}

