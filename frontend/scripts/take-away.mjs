// One page of the built script and styles, with room for what a demo takes along; the server fills that in.
import { createHash } from 'node:crypto'
import { readFileSync, writeFileSync } from 'node:fs'

const folder = new URL('../', import.meta.url)
const read = (name) => readFileSync(new URL(name, folder), 'utf8')
const sourceOf = (text) => `'sha256-${createHash('sha256').update(text).digest('base64')}'`

// What would end the element that it stands in, or begin a comment, is written otherwise: within strings it says the same.
const scriptOf = (name) => read(name).replaceAll('\r\n', '\n').replaceAll('</script', '<\\/script').replaceAll('<!--', '<\\!--')
const script = scriptOf('takeaway/dist/take-away.js')
const answering = scriptOf('inbrowser/dist/thread.js')
const style = read('takeaway/dist/take-away.css').replaceAll('\r\n', '\n')
// Nothing is fetched, nothing is sent, and no other script runs.
const policy = [
  "default-src 'none'",
  `script-src ${sourceOf(script)} ${sourceOf(answering)}`,
  // The thread that answers, made of the second of them.
  'worker-src blob:',
  `style-src ${sourceOf(style)}`,
  'font-src data:',
  'img-src data: blob:',
  "base-uri 'none'",
  "form-action 'none'",
].join('; ')

const parts = { policy, style, script, answering }
const page = read('takeaway/page.html').replace(/%(policy|style|script|answering)%/g, (_, name) => parts[name])
writeFileSync(new URL('../dist/take-away.html', import.meta.url), page)
