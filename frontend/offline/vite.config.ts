import { defineConfig } from 'vite'

/** What answers for a page that its visitor keeps on a device; `scripts/offline.mjs` puts in which files the page is made of. */
export default defineConfig({
  publicDir: false,
  build: {
    lib: { entry: new URL('worker.ts', import.meta.url).pathname, formats: ['iife'], name: 'plainWindowOffline', fileName: () => 'offline.js' },
    outDir: new URL('dist', import.meta.url).pathname,
    reportCompressedSize: false,
  },
})
