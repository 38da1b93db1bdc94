/** What a page that answers in its visitor's browser can show of itself: that it says what the server said. */

export interface Proof {
  nAnswers: number
  /** Of how many what each value adds was compared too. */
  nExplained: number
  /** The largest difference of an output, and of what a value adds; in the output's own unit. */
  outputs: number
  contributions: number
  /** The largest number that was compared. */
  largest: number
  /** How many milliseconds all of it took. */
  took: number
}

/** Ask the reference answers once more; `onProgress` is told the share that is done. */
export type Prove = (onProgress: (share: number) => void) => Promise<Proof>

/** What checks a page, and by how many cases. */
export interface ProofAtHand {
  prove: Prove
  nReference: number
}

let atHand: ProofAtHand | null = null
const listeners = new Set<() => void>()

/** Have this page checked by `own`. */
export function proveBy(own: ProofAtHand | null): void {
  atHand = own
  listeners.forEach((listener) => listener())
}

/** What checks this page; null where there is nothing to check it by. */
export function proofAtHand(): ProofAtHand | null {
  return atHand
}

/** Have `listener` called when that has changed; gives what ends it. */
export function onProof(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}
