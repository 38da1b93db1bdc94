/** From steps to what a ribbon can show. */
import type { Curve } from './curves'

/** More steps than this no ribbon can show. */
const RIBBON_STEPS = 160

/** Of equal neighbours the first; where there are too many, the last of each stretch of the range. */
export function thinned(curve: Curve): Curve & { thinned: boolean } {
  const xs = curve.x as number[]
  const kept = [...xs.keys()].filter((at, place) => place === 0 || curve.y[at] !== curve.y[at - 1])
  if (kept.length <= RIBBON_STEPS) return { ...picked(curve, kept), thinned: false }
  const low = xs[kept[0]]
  const span = xs[kept[kept.length - 1]] - low
  const left = [kept[0]]
  let last = -1
  for (const at of kept.slice(1)) {
    const stretch = Math.min(Math.floor(((xs[at] - low) / span) * RIBBON_STEPS), RIBBON_STEPS - 1)
    if (stretch === last) left.pop()
    left.push(at)
    last = stretch
  }
  return { ...picked(curve, left), thinned: true }
}

function picked({ shape, x, y }: Curve, places: number[]): Curve {
  return { shape, x: places.map((at) => x[at]), y: places.map((at) => y[at]) }
}
