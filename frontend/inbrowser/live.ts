/** What a page of a server answers by in its visitor's browser, once that was fetched. */
import type { OpenSent } from '../src/visitor/browser/sent'
import { NotOpened, openBlocks } from './askingThread'
import { doorTo } from './requests'

export { NotOpened }

export const openSent: OpenSent = async (sent) => {
  const { ask, prove, nReference, close } = await openBlocks(makeThread, () => import('./served'), { ...sent, mark: '' })
  return { door: doorTo(ask), prove, nReference, close }
}

function makeThread(): Worker {
  return new Worker(new URL('thread.ts', import.meta.url), { type: 'module' })
}
