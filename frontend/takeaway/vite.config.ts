import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'
import { leftOut } from './leftOut.ts'

/** All of a page that needs no server as one script and one sheet of styles, letters within it; `scripts/take-away.mjs` makes the page of them. */
export default defineConfig({
  publicDir: false,
  root: new URL('..', import.meta.url).pathname,
  plugins: [leftOut(), react(), tailwindcss()],
  build: {
    rolldownOptions: { input: new URL('main.tsx', import.meta.url).pathname, output: { codeSplitting: false, entryFileNames: 'take-away.js', assetFileNames: 'take-away.[ext]' } },
    outDir: new URL('dist', import.meta.url).pathname,
    assetsInlineLimit: Number.MAX_SAFE_INTEGER,
    cssCodeSplit: false,
    modulePreload: false,
    reportCompressedSize: false,
    chunkSizeWarningLimit: 1000,
  },
})
