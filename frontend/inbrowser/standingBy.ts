/**
 * What a script does that answers. In a file it stands once, and is run twice: in the page, where it only says how to serve,
 * and in a thread beside it, made of the same text, where it serves.
 */
import type { Blocks } from './content'
import { damageOf, serveMessages, type Served } from './served'

export function standBy(serve: (blocks: Blocks) => Promise<Served>): void {
  if (typeof document === 'undefined') {
    serveMessages(globalThis as never, serve)
    // Whoever made the thread waits for it: some browsers make one that never runs.
    postMessage('started')
  } else Object.assign(globalThis, { plainWindowServing: { serve, damageOf } })
}
