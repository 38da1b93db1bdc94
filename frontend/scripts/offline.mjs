// Puts into the script that answers without a network which files the visitor's page is made of.
import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'

const dist = new URL('../dist/', import.meta.url)
const chunks = JSON.parse(readFileSync(new URL('.vite/manifest.json', dist), 'utf8'))
const files = new Set()
const seen = new Set()

function take(name) {
  if (seen.has(name)) return
  seen.add(name)
  const { file, css = [], assets = [], imports = [], dynamicImports = [] } = chunks[name]
  for (const one of [...(file.endsWith('.html') ? [] : [file]), ...css, ...assets]) files.add(`/${one}`)
  for (const one of [...imports, ...dynamicImports]) take(one)
}

take('visitor.html')
// Threads are bundles of their own, which no chunk names.
for (const name of readdirSync(new URL('assets/', dist))) if (/^thread-.*\.js$/.test(name)) files.add(`/assets/${name}`)
const script = readFileSync(new URL('../offline/dist/offline.js', import.meta.url), 'utf8')
const place = /%files%/
if (!place.test(script)) throw new Error('no place for the files')
writeFileSync(new URL('offline.js', dist), script.replace(place, () => JSON.stringify([...files].sort())))
rmSync(new URL('.vite', dist), { recursive: true })
