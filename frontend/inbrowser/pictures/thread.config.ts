import { defineConfig } from 'vite'
import { engineApart } from '../../scripts/engineApart.ts'

/** The script that answers in a page that needs no server where its model looks at pictures. */
export default defineConfig({
  publicDir: false,
  plugins: [engineApart()],
  build: {
    lib: { entry: new URL('thread.ts', import.meta.url).pathname, formats: ['iife'], name: 'plainWindowAnswering', fileName: () => 'pictures.js' },
    outDir: new URL('../dist', import.meta.url).pathname,
    emptyOutDir: false,
    reportCompressedSize: false,
  },
})
