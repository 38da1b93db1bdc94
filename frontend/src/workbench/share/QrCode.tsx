/** An address as a code that phones read: drawn here, sent nowhere. */
import { useMemo } from 'react'
import { encode } from 'uqr'

/** Readers want this much quiet around it, in modules. */
const BORDER = 4

export function QrCode({ address }: { address: string }) {
  const { path, side } = useMemo(() => drawn(address), [address])
  return (
    <figure className="mt-2">
      <svg viewBox={`0 0 ${side} ${side}`} className="size-48 bg-white" role="img" aria-label={`A code for a phone's camera; it opens ${address}`} shapeRendering="crispEdges">
        <path d={path} fill="#000" />
      </svg>
      <figcaption className="text-[0.88em] text-soft">Whoever points a phone at it opens the page.</figcaption>
    </figure>
  )
}

/** All dark modules as one path. */
function drawn(address: string): { path: string; side: number } {
  const { data, size } = encode(address, { ecc: 'M', border: BORDER })
  const cells = data.flatMap((row, y) => row.flatMap((isDark, x) => (isDark ? [`M${x} ${y}h1v1h-1z`] : [])))
  return { path: cells.join(''), side: size }
}
