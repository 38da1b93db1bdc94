/** What a page answers by, fetched with word of how far it is. */
import type { Page } from '../../api/client'
import { isSeen } from '../../domain/kinds'
import type { Sent } from './sent'

export interface Progress {
  got: number
  total: number
  /** As the line has been so far: infinite where it brought nothing, null while nothing can be said of it. */
  secondsLeft: number | null
}

/** Before that a line has shown nothing of itself. */
const SHOWN_AFTER_MS = 1500

/** Put in when the pages are built. */
declare const __ENGINE__: string

/** What runs ONNX graphs. Its name tells its version: it is kept for good. */
export const ENGINE = __ENGINE__

export function takesEngine({ browser }: Page): boolean {
  return browser?.runs_graph ?? false
}

export async function fetchedParts(page: Page, isDraft: boolean, { mark, bytes: about }: NonNullable<Page['browser']>, onProgress: (progress: Progress) => void): Promise<Sent> {
  const own = `/api/v1/demos/${page.slug}/browser`
  const query = new URLSearchParams({ mark, ...(isDraft ? { draft: '1' } : {}) })
  const addresses = [`${own}/content?${query}`, `${own}/model?${query}`, ...(takesEngine(page) ? [ENGINE] : [])]
  const began = performance.now()
  const sizes = new Map<string, number>()
  let got = 0
  let isOver = false
  const note = (bytes: number) => {
    got += bytes
    // Where one part failed the other may still be coming.
    if (isOver) return
    // Until all have said their sizes, what the page says of them holds.
    const stated = sizes.size === addresses.length && [...sizes.values()].every((size) => size > 0)
    const total = stated ? [...sizes.values()].reduce((sum, size) => sum + size, 0) : Math.max(about, got)
    const took = performance.now() - began
    onProgress({ got, total, secondsLeft: took < SHOWN_AFTER_MS ? null : (total / Math.max(got, 0) - 1) * (took / 1000) })
  }
  // A line that brings nothing says so too.
  const waiting = setInterval(() => note(0), SHOWN_AFTER_MS)
  try {
    const [content, model, engine] = await Promise.all(addresses.map((address) => whole(address, (size) => sizes.set(address, size), note)))
    if (!content || !model) throw new Error('a part is missing')
    return { content, model, looks: page.fields.some(isSeen), ...(engine ? { engine } : {}) }
  } finally {
    isOver = true
    clearInterval(waiting)
  }
}

async function whole(address: string, onSize: (size: number) => void, onBytes: (bytes: number) => void): Promise<ArrayBuffer> {
  const response = await fetch(address)
  if (!response.ok || !response.body) throw new Error(`it says ${response.status}`)
  onSize(Number(response.headers.get('Content-Length') ?? 0))
  const reader = response.body.getReader()
  const parts: Uint8Array<ArrayBuffer>[] = []
  for (;;) {
    const { done, value } = await reader.read()
    if (done) break
    parts.push(value)
    onBytes(value.length)
  }
  return new Blob(parts).arrayBuffer()
}
