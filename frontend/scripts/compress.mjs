// Built files are compressed once here instead of at each request.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { brotliCompressSync, constants, gzipSync } from 'node:zlib'

const folder = new URL('../dist/assets/', import.meta.url)
for (const name of readdirSync(folder)) {
  if (!/\.(js|css)$/.test(name)) continue
  const data = readFileSync(new URL(name, folder))
  writeFileSync(new URL(`${name}.gz`, folder), gzipSync(data, { level: 9 }))
  writeFileSync(
    new URL(`${name}.br`, folder),
    brotliCompressSync(data, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }),
  )
}
