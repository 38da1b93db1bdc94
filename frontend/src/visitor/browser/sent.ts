/** What a server sends for a page to answer by, and what comes of it. */
import type { Door } from '../../api/door'
import type { ProofAtHand } from '../page/proof'

export interface Sent {
  /** What answers rest on, and the compiled model, both packed. */
  content: ArrayBuffer
  model: ArrayBuffer
  /** Whether the model looks at pictures. */
  looks: boolean
  /** What runs ONNX graphs, packed; of other models nothing. */
  engine?: ArrayBuffer
}

export interface Opened extends ProofAtHand {
  door: Door
  /** Give back what it takes. */
  close: () => void
}

/** Rejects with an error whose name is `NotOpened` where it is not what was sent. */
export type OpenSent = (sent: Sent) => Promise<Opened>
