/** As `thread.ts`, where the model is a compiled one of flattened pixels. */
import { damageOf, serveMessages } from '../served'
import { serve } from './servedPixels'

if (typeof document === 'undefined') {
  serveMessages(globalThis as never, serve)
  postMessage('started')
} else Object.assign(globalThis, { plainWindowServing: { serve, damageOf } })
