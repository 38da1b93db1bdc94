import { defineConfig } from 'vite'
import { threadScript } from '../../threadScript.ts'

/** For compiled models of flattened pixels. */
export default defineConfig(threadScript(new URL('thread.ts', import.meta.url), 'pixels.js'))
