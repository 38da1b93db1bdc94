import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    rolldownOptions: { input: ['visitor.html', 'workbench.html', 'missing.html', 'trouble.html'] },
    // The pages' policy allows no inline scripts and no data: scripts; fonts stay files.
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    reportCompressedSize: false,
  },
})
