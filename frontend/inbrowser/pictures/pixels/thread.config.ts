import { defineConfig } from 'vite'

/** The script that answers in a page that needs no server where its model is a compiled one of flattened pixels. */
export default defineConfig({
  publicDir: false,
  build: {
    lib: { entry: new URL('thread.ts', import.meta.url).pathname, formats: ['iife'], name: 'plainWindowAnswering', fileName: () => 'pixels.js' },
    outDir: new URL('../../dist', import.meta.url).pathname,
    emptyOutDir: false,
    reportCompressedSize: false,
  },
})
