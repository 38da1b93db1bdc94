// Answers for tests of the reader in TypeScript: a line with a model and what is asked comes in, a line with the answer goes out.
import { createInterface } from 'node:readline'
import { CompiledModel, Explainer } from '../frontend/runtime/dist/runtime.js'

const asText = (value) => (Number.isFinite(value) ? value : String(value))

for await (const line of createInterface({ input: process.stdin })) {
  try {
    const { model, columns, sample, rows, of } = JSON.parse(line)
    const asked = new CompiledModel(Uint8Array.from(Buffer.from(model, 'base64')))
    if (columns) {
      const { data, width } = asked.predict(columns)
      console.log(JSON.stringify({ width, outputs: Array.from(data, asText) }))
    } else {
      const explainer = new Explainer(asked, sample)
      console.log(JSON.stringify({ explanations: rows.map((row) => explainer.explain(row, of)) }))
    }
  } catch (error) {
    console.log(JSON.stringify({ error: `${error.name}: ${error.message}` }))
  }
}
