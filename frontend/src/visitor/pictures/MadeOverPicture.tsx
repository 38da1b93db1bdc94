/** What was made of a picture: right of a divider, or a mask that lies over it. */
import { useContext, useEffect, useRef } from 'react'
import type { MaskSetting } from '../../api/client'
import { drawMask } from './mask'
import { MadeContext, type MadeView } from './madeView'
import { placeOf } from './Pixels'
import { UnderDivider } from './UnderDivider'

export function MadeOverPicture() {
  const view = useContext(MadeContext)
  if (!view?.image) return null
  if (view.made.answer.kind === 'mask') return <Mask view={view} image={view.image} />
  return view.isSideBySide ? null : <UnderDivider view={view} image={view.image} />
}

/** A mask lies over the picture on paper too. */
export function MaskOnPaper() {
  const view = useContext(MadeContext)
  return view?.image && view.made.answer.kind === 'mask' ? <Mask view={view} image={view.image} /> : null
}

function Mask({ view: { made, off, share }, image }: { view: MadeView; image: ImageBitmap }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { kinds, part } = made.answer.kind === 'mask' ? made.answer : { kinds: [], part: {} }
  const { nothing } = made.setting as MaskSetting
  const empty = kinds.find((kind) => kind.name === nothing && nothing)?.place ?? -1
  // A canvas is drawn on by hand.
  useEffect(() => {
    if (canvas.current) drawMask(canvas.current, image, off, empty)
  }, [image, off, empty])
  return <canvas ref={canvas} aria-hidden="true" data-testid="mask" className="pointer-events-none absolute [image-rendering:pixelated]" style={{ ...placeOf(part ?? {}), opacity: share * 2 > 1 ? 1 : share * 2 }} />
}
