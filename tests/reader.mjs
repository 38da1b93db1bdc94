// Answers for tests of the reader in TypeScript: a line with a model and columns comes in, a line with its outputs goes out.
import { createInterface } from 'node:readline'
import { CompiledModel } from '../frontend/runtime/dist/runtime.js'

const asText = (value) => (Number.isFinite(value) ? value : String(value))

for await (const line of createInterface({ input: process.stdin })) {
  try {
    const { model, columns } = JSON.parse(line)
    const { data, width } = new CompiledModel(Uint8Array.from(Buffer.from(model, 'base64'))).predict(columns)
    console.log(JSON.stringify({ width, outputs: Array.from(data, asText) }))
  } catch (error) {
    console.log(JSON.stringify({ error: `${error.name}: ${error.message}` }))
  }
}
