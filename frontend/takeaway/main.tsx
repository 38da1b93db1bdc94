/** Opens a page that needs no server: what the file carries is checked, then it answers whatever the page asks. */
import { gunzipSync } from 'fflate'
import { CompiledModel } from '../runtime/model'
import { ModelDamaged } from '../runtime/errors'
import { answerBy } from '../src/api/door'
import { proveBy } from '../src/visitor/page/proof'
import { Answerer } from './answering/answerer'
import { FileDamaged, readFile } from './content'
import { prove } from './proof'
import { doorOf } from './requests'

const root = document.getElementById('root') as HTMLElement

try {
  const mark = root.dataset.mark ?? ''
  const { content, model } = readFile({ content: textOf('content'), model: textOf('model') }, mark, gunzipSync)
  const answerer = new Answerer(content, new CompiledModel(model))
  answerBy(doorOf(content, answerer, mark))
  proveBy((onProgress) => prove(answerer, content.proof, onProgress))
  // Not before: it looks at the address and the tab's memory at once.
  void import('../src/visitor/drawing').then(({ drawVisitorPage }) => drawVisitorPage())
} catch (error) {
  refuse(error)
}

/** What stands in one of the file's blocks of data. */
function textOf(id: string): string {
  return document.getElementById(id)?.textContent ?? ''
}

function refuse(error: unknown): void {
  const isDamaged = error instanceof FileDamaged || error instanceof ModelDamaged
  const heading = isDamaged ? 'This file is damaged' : 'This page cannot be opened here'
  const why = isDamaged
    ? `${error.message.charAt(0).toUpperCase()}${error.message.slice(1)}${error.message.endsWith('.') ? '' : '.'} It was cut short or changed on its way. Ask whoever gave it to you for another copy.`
    : 'This browser lacks something that the page needs, or has too little memory for it. A current Firefox, Chrome, Edge or Safari opens it.'
  root.replaceChildren()
  const main = document.createElement('main')
  main.className = 'mx-auto max-w-xl px-5 py-24'
  for (const [tag, text, own] of [['h1', heading, 'text-[1.6em] font-bold'], ['p', why, 'mt-3 text-soft']] as const) {
    const element = document.createElement(tag)
    element.className = own
    element.textContent = text
    main.append(element)
  }
  root.append(main)
}
