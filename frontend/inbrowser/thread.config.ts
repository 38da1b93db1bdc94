import { defineConfig } from 'vite'
import { threadScript } from './threadScript.ts'

/** For models of rows. */
export default defineConfig(threadScript(new URL('thread.ts', import.meta.url), 'thread.js'))
