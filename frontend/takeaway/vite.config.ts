import { defineConfig } from 'vite'
import { pageOfOneFile } from './build.ts'

/** The page of a model that looks at no pictures. */
export default defineConfig(pageOfOneFile('take-away', false))
