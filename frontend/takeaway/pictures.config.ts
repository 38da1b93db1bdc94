import { defineConfig } from 'vite'
import { pageOfOneFile } from './build.ts'

/** The page of a model that looks at a picture or a drawing. */
export default defineConfig(pageOfOneFile('take-away-pictures', true))
