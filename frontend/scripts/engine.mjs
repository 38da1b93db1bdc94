// What runs models that look at pictures in a browser, packed once: for pages to fetch, and for files to hold.
import { readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { gzipSync } from 'node:zlib'
import { engineName } from './engineName.mjs'

const path = createRequire(import.meta.url).resolve('onnxruntime-web/ort-wasm-simd-threaded.wasm')
writeFileSync(new URL(`../dist${engineName}`, import.meta.url), gzipSync(readFileSync(path), { level: 9 }))
