/** As that of graphs, where the model is a compiled one of flattened pixels. */
import { damageOf, serveMessages } from '../../served'
import { serve } from './served'

if (typeof document === 'undefined') {
  serveMessages(globalThis as never, serve)
  postMessage('started')
} else Object.assign(globalThis, { plainWindowServing: { serve, damageOf } })
