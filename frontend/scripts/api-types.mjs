// Types from the API's description. Usage: node scripts/api-types.mjs DESCRIPTION.json OUTPUT.ts
import { readFileSync, writeFileSync } from 'node:fs'
import openapiTS, { astToString } from 'openapi-typescript'

const [input, output] = process.argv.slice(2)
const description = JSON.parse(readFileSync(input, 'utf8'))
const header = '// Generated from the API description by `npm run api-types`. Do not edit.\n\n'
writeFileSync(output, header + astToString(await openapiTS(description, { defaultNonNullable: false })))
