import { defineConfig } from 'vite'

/** What answers in a page that needs no server, as one module without the page. */
export default defineConfig({
  publicDir: false,
  build: {
    lib: { entry: new URL('index.ts', import.meta.url).pathname, formats: ['es'], fileName: 'answering' },
    outDir: new URL('dist', import.meta.url).pathname,
    emptyOutDir: false,
    reportCompressedSize: false,
  },
})
