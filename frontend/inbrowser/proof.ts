/** Whether the file says what the server said: its reference answers, asked once more here. */
import type { Proof } from '../src/visitor/page/proof'
import type { ReferenceAnswer } from './content'

/** Who is asked again: what it says of a case, and what each value adds to it where that is worked out. */
export interface Provable {
  outputs: (row: ReferenceAnswer['row']) => number[] | Promise<number[]>
  contributions: (row: ReferenceAnswer['row'], of: number) => Explained | Promise<Explained>
}

type Explained = { method: string; baseline: number; contributions: Record<string, number> } | null

/** Ask again, one after the other, so that the page can be used meanwhile. */
export async function prove(answerer: Provable, known: readonly ReferenceAnswer[], onProgress: (share: number) => void): Promise<Proof> {
  const proof: Proof = { nAnswers: 0, nExplained: 0, outputs: 0, contributions: 0, largest: 0, took: 0 }
  for (const one of known) {
    const begun = performance.now()
    proof.outputs = Math.max(proof.outputs, apart(await answerer.outputs(one.row), one.outputs))
    proof.largest = Math.max(proof.largest, ...one.outputs.map(Math.abs))
    proof.nAnswers += 1
    const { contributions, baseline, of } = one
    const found = contributions && of !== null ? await answerer.contributions(one.row, of) : null
    // What was worked out in another way may differ by what a model's own rounding comes to; what is drawn by lot, each time.
    if (found && contributions && found.method === one.method && found.method !== 'sampled') {
      const names = Object.keys(contributions)
      const own = [found.baseline, ...names.map((name) => found.contributions[name] ?? 0)]
      proof.contributions = Math.max(proof.contributions, apart(own, [baseline ?? 0, ...names.map((name) => contributions[name])]))
      proof.nExplained += 1
    }
    proof.took += performance.now() - begun
    onProgress(proof.nAnswers / known.length)
    await new Promise((go) => setTimeout(go))
  }
  return proof
}

/** The largest difference; infinite where one has a number and the other has none. */
function apart(own: readonly number[], expected: readonly number[]): number {
  if (own.length !== expected.length) return Number.POSITIVE_INFINITY
  const differences = own.map((value, at) => (Object.is(value, expected[at]) ? 0 : Math.abs(value - expected[at])))
  return Math.max(0, ...differences.map((one) => (Number.isNaN(one) ? Number.POSITIVE_INFINITY : one)))
}
