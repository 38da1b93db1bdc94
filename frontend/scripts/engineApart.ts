import type { Plugin } from 'vite'

/** The library that runs models of pictures looks for its WebAssembly beside its own script; here it is handed to it, wherever that script is. */
export function engineApart(): Plugin {
  return {
    name: 'engine-apart',
    enforce: 'pre',
    transform(code, id) {
      if (!id.includes('onnxruntime-web')) return undefined
      return code.replaceAll('new URL("ort-wasm-simd-threaded.wasm",import.meta.url).href', '"ort-wasm-simd-threaded.wasm"').replaceAll('import.meta.url', '"file:"')
    },
  }
}
