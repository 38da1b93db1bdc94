import { defineConfig } from 'vite'

/** The reader of compiled models as one module, for whoever asks a model from a page of their own. */
export default defineConfig({
  publicDir: false,
  build: {
    lib: { entry: new URL('index.ts', import.meta.url).pathname, formats: ['es'], fileName: 'runtime' },
    outDir: new URL('dist', import.meta.url).pathname,
    reportCompressedSize: false,
  },
})
