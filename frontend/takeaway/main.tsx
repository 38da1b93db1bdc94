/** Opens a page that needs no server: what the file carries is checked, then it answers whatever the page asks. */
import { answerBy } from '../src/api/door'
import { proveBy } from '../src/visitor/page/proof'
import { NotOpened, openBlocks, type Serving } from '../inbrowser/askingThread'
import { doorTo } from '../inbrowser/requests'

const root = document.getElementById('root') as HTMLElement

async function open(): Promise<void> {
  const blocks = { content: textOf('content'), model: textOf('model'), engine: textOf('engine'), mark: root.dataset.mark ?? '' }
  if (blocks.mark === '') throw new NotOpened('It does not say what it is known by.')
  const opened = await openBlocks(makeThread, () => Promise.resolve((globalThis as unknown as { plainWindowServing: Serving }).plainWindowServing), blocks)
  answerBy(doorTo(opened))
  proveBy(opened)
  // The model is read while the page is drawn.
  opened.whole.catch(refuse)
  // Not before: it looks at the address and the tab's memory at once.
  const { drawVisitorPage } = await import('../src/visitor/drawing')
  drawVisitorPage()
}

/** Of the script that stands in the file, which has no address of its own. */
function makeThread(): Worker {
  const address = URL.createObjectURL(new Blob([textOf('answering')], { type: 'text/javascript' }))
  const thread = new Worker(address)
  thread.addEventListener('message', () => URL.revokeObjectURL(address), { once: true })
  return thread
}

/** What stands in one of the file's blocks. */
function textOf(id: string): string {
  return document.getElementById(id)?.textContent ?? ''
}

function refuse(error: unknown): void {
  const isDamaged = error instanceof NotOpened && error.message !== ''
  const heading = isDamaged ? 'This file is damaged' : 'This page cannot be opened here'
  const why = isDamaged
    ? `${error.message} It was cut short or changed on its way. Ask whoever gave it to you for another copy.`
    : 'This browser lacks something that the page needs, or has too little memory for it. A current Firefox, Chrome, Edge or Safari opens it.'
  const main = document.createElement('main')
  main.className = 'mx-auto max-w-xl px-5 py-24'
  for (const [tag, text, own] of [['h1', heading, 'text-[1.6em] font-bold'], ['p', why, 'mt-3 text-soft']] as const) {
    const element = document.createElement(tag)
    element.className = own
    element.textContent = text
    main.append(element)
  }
  // The page may stand there by now.
  document.body.replaceChildren(main)
}

open().catch(refuse)
