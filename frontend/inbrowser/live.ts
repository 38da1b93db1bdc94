/** What a page of a server answers by in its visitor's browser, once that was fetched. */
import type { OpenSent } from '../src/visitor/browser/sent'
import { NotOpened, openBlocks } from './askingThread'
import { doorTo } from './requests'

export { NotOpened }

export const openSent: OpenSent = async (sent) => {
  const [makeThread, serving] = sent.engine ? [makePictureThread, () => import('./pictures/served')] as const : [makeTableThread, () => import('./served')] as const
  const opened = await openBlocks(makeThread, async () => ({ damageOf: (await import('./served')).damageOf, serve: (await serving()).serve }), { ...sent, mark: '' })
  try {
    await opened.whole
  } catch (error) {
    opened.close()
    throw error
  }
  return { door: doorTo(opened), ...opened }
}

function makeTableThread(): Worker {
  return new Worker(new URL('thread.ts', import.meta.url), { type: 'module' })
}

function makePictureThread(): Worker {
  return new Worker(new URL('pictures/thread.ts', import.meta.url), { type: 'module' })
}
