import { defineConfig } from 'vite'

/** The script that answers in a page that needs no server, in the page and in a thread beside it. */
export default defineConfig({
  publicDir: false,
  build: {
    lib: { entry: new URL('thread.ts', import.meta.url).pathname, formats: ['iife'], name: 'plainWindowAnswering', fileName: () => 'thread.js' },
    outDir: new URL('dist', import.meta.url).pathname,
    emptyOutDir: false,
    reportCompressedSize: false,
  },
})
