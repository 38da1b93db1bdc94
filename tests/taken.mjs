// Answers for tests of files that need no server: a line with a file's path and cases (or calls of single functions) comes in, a line with the answers goes out.
import { readFileSync } from 'node:fs'
import { createInterface } from 'node:readline'
import * as answering from '../frontend/inbrowser/dist/answering.js'

const { InputFaults, openFile } = answering

for await (const line of createInterface({ input: process.stdin })) {
  try {
    const { path, cases, parts, of, to, reach, calls } = JSON.parse(line)
    if (calls) {
      console.log(JSON.stringify({ answers: calls.map(([name, ...given]) => answering[name](...given)) }))
      continue
    }
    const answerer = await openFile(readFileSync(path, 'utf8'))
    const answered = []
    for (const inputs of cases) {
      try {
        answered.push(await answerer.predict(inputs, { parts: new Set(parts), of, to, reach }))
      } catch (error) {
        if (!(error instanceof InputFaults)) throw error
        answered.push({ faults: error.faults })
      }
    }
    console.log(JSON.stringify({ answers: answered }))
  } catch (error) {
    console.log(JSON.stringify({ error: `${error.name}: ${error.message}` }))
  }
}
