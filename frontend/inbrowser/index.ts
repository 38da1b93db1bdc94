/** A page that needs no server, opened without its page: what it says of a case, for programs and for tests. */
import { Answerer } from './answering/answerer'
import { readContent, readModel } from './content'

export { Answerer } from './answering/answerer'
export { InputFaults } from './answering/inputs'
export { marginWords, numberText, numberWords, of100, share100, significant } from './answering/rounding'
export { FileDamaged } from './content'

const BLOCK = (id: string) => new RegExp(`<script type="application/octet-stream" id="${id}">([^<]*)</script>`)
const MARK = /data-mark="([0-9a-f]*)"/

/** What answers in a file, from the file's text. Throws `FileDamaged`. */
export async function openFile(html: string): Promise<Answerer> {
  const textOf = (id: string) => BLOCK(id).exec(html)?.[1] ?? ''
  const blocks = { content: textOf('content'), model: textOf('model'), mark: MARK.exec(html)?.[1] ?? '' }
  const content = await readContent(blocks)
  return new Answerer(content, await readModel(blocks, content))
}
