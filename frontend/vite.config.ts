import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'
import { engineApart } from './scripts/engineApart.ts'
import { engineName } from './scripts/engineName.mjs'

export default defineConfig({
  plugins: [engineApart(), react(), tailwindcss()],
  worker: { format: 'es', plugins: () => [engineApart()] },
  define: { __ENGINE__: JSON.stringify(engineName) },
  resolve: { alias: { 'answering-in-browser': new URL('inbrowser/live.ts', import.meta.url).pathname } },
  build: {
    rolldownOptions: { input: ['visitor.html', 'workbench.html', 'missing.html', 'trouble.html'] },
    // The pages' policy allows no inline scripts and no data: scripts; fonts stay files.
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    // Which files a page is made of, for who keeps it on a device; `scripts/offline.mjs` reads it.
    manifest: true,
    reportCompressedSize: false,
  },
})
