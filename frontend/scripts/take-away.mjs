// Pages of the built script and styles, with room for what a demo takes along; the server fills that in.
import { createHash } from 'node:crypto'
import { readFileSync, writeFileSync } from 'node:fs'
import { engineName } from './engineName.mjs'

const folder = new URL('../', import.meta.url)
const read = (name) => readFileSync(new URL(name, folder), 'utf8')
const sourceOf = (text) => `'sha256-${createHash('sha256').update(text).digest('base64')}'`
// What would end the element that it stands in, or begin a comment, is written otherwise: within strings it says the same.
const scriptOf = (name) => read(name).replaceAll('\r\n', '\n').replaceAll('</script', '<\\/script').replaceAll('<!--', '<\\!--')

function writePage(name, pageName, answeringName, engine) {
  const script = scriptOf(`takeaway/dist/${pageName}.js`)
  const answering = scriptOf(`inbrowser/dist/${answeringName}.js`)
  const style = read(`takeaway/dist/${pageName}.css`).replaceAll('\r\n', '\n')
  // Nothing is fetched, nothing is sent, and no other script runs; what looks at pictures is WebAssembly that is in the file.
  const policy = [
    "default-src 'none'",
    `script-src ${sourceOf(script)} ${sourceOf(answering)}${engine ? " 'wasm-unsafe-eval'" : ''}`,
    // The thread that answers, made of the second of them.
    'worker-src blob:',
    `style-src ${sourceOf(style)}`,
    'font-src data:',
    'img-src data: blob:',
    "base-uri 'none'",
    "form-action 'none'",
  ].join('; ')
  const parts = { policy, style, script, answering, engine }
  const page = read('takeaway/page.html').replace(/%(policy|style|script|answering|engine)%/g, (_, part) => parts[part])
  writeFileSync(new URL(`../dist/${name}.html`, import.meta.url), page)
}

writePage('take-away', 'take-away', 'thread', '')
writePage('take-away-pixels', 'take-away-pictures', 'pixels', '')
writePage('take-away-pictures', 'take-away-pictures', 'pictures', readFileSync(new URL(`dist${engineName}`, folder)).toString('base64'))
