/** A picture's pixels in the browser: upright, cut out and turned as the server does it. */
import { useEffect, useState } from 'react'
import { askAtDoor } from '../../api/door'
import type { Cut, PictureValue } from '../../api/picture'

/** Longest side of what is shown. */
const PREVIEW_SIDE = 1280

export type Source = { status: 'loading' } | { status: 'there'; image: ImageBitmap } | { status: 'not shown' }

const LOADING: Source = { status: 'loading' }

/** The whole picture, upright; `not shown` for kinds that this browser cannot show. */
export function useSource(slug: string, isDraft: boolean, value: PictureValue | null): Source {
  const file = value?.file
  const sample = value?.sample
  const wanted = file ?? sample
  const [read, setRead] = useState<{ of: unknown; source: Source } | null>(null)
  // Decoding is outside React, and takes its time.
  useEffect(() => {
    let isWanted = true
    const fetchOrRead = async () => {
      try {
        const content = file ?? (sample ? await sampleContent(slug, sample, isDraft) : null)
        if (!content) return
        const image = await createImageBitmap(content, { imageOrientation: 'from-image' })
        if (isWanted) setRead({ of: file ?? sample, source: { status: 'there', image } })
      } catch {
        if (isWanted) setRead({ of: file ?? sample, source: { status: 'not shown' } })
      }
    }
    void fetchOrRead()
    return () => {
      isWanted = false
    }
  }, [slug, isDraft, file, sample])
  return read && read.of === wanted ? read.source : LOADING
}

/** One of the demo's own pictures, from whoever answers. */
export async function sampleContent(slug: string, name: string, isDraft: boolean): Promise<Blob> {
  const address = `/api/v1/demos/${encodeURIComponent(slug)}/samples/${encodeURIComponent(name)}${isDraft ? '?draft=1' : ''}`
  const response = await askAtDoor(new Request(new URL(address, location.href)))
  if (!response.ok) throw new Error(`it says ${response.status}`)
  return response.blob()
}

/** Draw the picture as it counts: cut out, then turned clockwise. */
export function drawPicture(canvas: HTMLCanvasElement, image: ImageBitmap, cut: Cut, turn: PictureValue['turn'], side = PREVIEW_SIDE): void {
  const [left, top] = [cut.left * image.width, cut.top * image.height]
  const width = Math.max(1, Math.min(1 - cut.left, cut.width) * image.width)
  const height = Math.max(1, Math.min(1 - cut.top, cut.height) * image.height)
  const share = Math.min(1, side / Math.max(width, height))
  const [across, down] = [Math.max(1, Math.round(width * share)), Math.max(1, Math.round(height * share))]
  const isAside = turn % 180 !== 0
  canvas.width = isAside ? down : across
  canvas.height = isAside ? across : down
  const context = canvas.getContext('2d')
  if (!context) return
  context.translate(canvas.width / 2, canvas.height / 2)
  context.rotate((turn * Math.PI) / 180)
  context.drawImage(image, left, top, width, height, -across / 2, -down / 2, across, down)
}
