import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import type { UserConfig } from 'vite'
import { engineName } from '../scripts/engineName.mjs'
import { leftOut } from './leftOut.ts'

const beside = (name: string) => new URL(name, import.meta.url).pathname

/** All of a page that needs no server as one script and one sheet of styles, letters within it; `scripts/take-away.mjs` makes the page of them. */
export function pageOfOneFile(name: string, hasPictures: boolean): UserConfig {
  return {
    publicDir: false,
    root: new URL('..', import.meta.url).pathname,
    plugins: [leftOut(hasPictures), react(), tailwindcss()],
    // Of these a page that asks no server needs little: what is needed is written here, and tested against them.
    resolve: { alias: { 'd3-scale': beside('numberScales.ts'), 'openapi-fetch': beside('askedByPath.ts') } },
    define: { __ENGINE__: JSON.stringify(engineName) },
    build: {
      rolldownOptions: { input: new URL('main.tsx', import.meta.url).pathname, output: { codeSplitting: false, entryFileNames: `${name}.js`, assetFileNames: `${name}.[ext]` } },
      outDir: new URL('dist', import.meta.url).pathname,
      emptyOutDir: false,
      assetsInlineLimit: Number.MAX_SAFE_INTEGER,
      cssCodeSplit: false,
      modulePreload: false,
      reportCompressedSize: false,
      chunkSizeWarningLimit: 1000,
    },
  }
}
