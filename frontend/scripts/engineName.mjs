// Where pages find what runs models that look at pictures; its version is in its name.
import { readFileSync } from 'node:fs'

const { dependencies } = JSON.parse(readFileSync(new URL('../package.json', import.meta.url), 'utf8'))
export const engineName = `/assets/onnxruntime-${dependencies['onnxruntime-web']}.wasm.gz`
