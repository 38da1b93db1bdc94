import { defineConfig } from 'vite'
import { engineApart } from '../../scripts/engineApart.ts'
import { threadScript } from '../threadScript.ts'

/** For ONNX graphs that look at pictures. */
export default defineConfig(threadScript(new URL('thread.ts', import.meta.url), 'pictures.js', [engineApart()]))
