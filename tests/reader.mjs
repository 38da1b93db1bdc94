// Answers for tests of the reader in TypeScript: a line with a model and what is asked comes in, a line with the answer goes out.
import { createInterface } from 'node:readline'
import { CompiledModel, Explainer } from '../frontend/runtime/dist/runtime.js'

const asText = (value) => (Number.isFinite(value) ? value : String(value))

for await (const line of createInterface({ input: process.stdin })) {
  try {
    const { model, columns, sample, rows, of, ranges } = JSON.parse(line)
    const asked = new CompiledModel(Uint8Array.from(Buffer.from(model, 'base64')))
    if (columns) {
      const { data, width } = asked.predict(columns)
      console.log(JSON.stringify({ width, outputs: Array.from(data, asText) }))
    } else {
      const explainer = new Explainer(asked, sample)
      const curves = (row) => Object.entries(ranges).map(([name, [low, high]]) => [name, explainer.steps(row, name, low, high, of)])
      const explained = rows.map((row) => ({ ...explainer.explain(row, of), curves: Object.fromEntries(curves(row)) }))
      console.log(JSON.stringify({ explanations: explained }))
    }
  } catch (error) {
    console.log(JSON.stringify({ error: `${error.name}: ${error.message}` }))
  }
}
