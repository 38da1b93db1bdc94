/** What a page of a server answers by in its visitor's browser, once that was fetched. */
import type { OpenSent, Sent } from '../src/visitor/browser/sent'
import { NotOpened, openBlocks, type Serving } from './askingThread'
import { doorTo } from './requests'

export { NotOpened }

export const openSent: OpenSent = async (sent) => {
  const [makeThread, serving] = wayOf(sent)
  const opened = await openBlocks(makeThread, async () => ({ damageOf: (await import('./served')).damageOf, serve: (await serving()).serve }), { ...sent, mark: '' })
  try {
    await opened.whole
  } catch (error) {
    opened.close()
    throw error
  }
  return { door: doorTo(opened), ...opened }
}

/** Each is loaded where it is needed: what runs graphs is large. */
function wayOf({ looks, engine }: Sent): [() => Worker, () => Promise<Pick<Serving, 'serve'>>] {
  if (!looks) return [makeTableThread, () => import('./served')]
  return engine ? [makeGraphThread, () => import('./pictures/served')] : [makePixelThread, () => import('./pictures/pixels/served')]
}

function makeTableThread(): Worker {
  return new Worker(new URL('thread.ts', import.meta.url), { type: 'module' })
}

function makeGraphThread(): Worker {
  return new Worker(new URL('pictures/thread.ts', import.meta.url), { type: 'module' })
}

function makePixelThread(): Worker {
  return new Worker(new URL('pictures/pixels/thread.ts', import.meta.url), { type: 'module' })
}
