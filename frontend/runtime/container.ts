/** The file of a compiled model: arrays behind a JSON header, with the plan among its words. Opening one runs no code. */
import type { ModelArray, Numbers } from './blocks'
import { ModelDamaged } from './errors'
import { readPlan, type Plan } from './plan'
import { Sha256 } from './sha256'

/** A plan as it stands in a file. */
export interface WrittenPlan extends Plan {
  /** The SHA-256 over it, in hex: what it is known again by. */
  sum: string
}

interface Entry {
  dtype: string
  shape: number[]
  data_offsets: [number, number]
}

interface Kind {
  /** As NumPy names it. */
  name: string
  bytes: number
  read: (buffer: ArrayBuffer) => Numbers
}

const KINDS: Record<string, Kind> = {
  F64: { name: 'float64', bytes: 8, read: (buffer) => new Float64Array(buffer) },
  F32: { name: 'float32', bytes: 4, read: (buffer) => new Float32Array(buffer) },
  I64: { name: 'int64', bytes: 8, read: (buffer) => new BigInt64Array(buffer) },
  I32: { name: 'int32', bytes: 4, read: (buffer) => new Int32Array(buffer) },
  U8: { name: 'uint8', bytes: 1, read: (buffer) => new Uint8Array(buffer) },
}
const PLAN = 'plain_window_plan'
const SUM = 'plain_window_sum'
const LENGTH_BYTES = 8

/**
 * The plan in a file's content, checked as a whole.
 *
 * Throws `ModelDamaged` if it is no compiled model, or not what was written.
 */
export function readContainer(content: Uint8Array): WrittenPlan {
  try {
    return readWhole(content)
  } catch (error) {
    // A header may be JSON and yet say nothing that is meant here.
    throw error instanceof ModelDamaged ? error : new ModelDamaged(`this is no compiled model, or a damaged one: ${(error as Error).message}`)
  }
}

function readWhole(content: Uint8Array): WrittenPlan {
  const { header, words, start } = readHeader(content)
  const arrays: Record<string, ModelArray> = {}
  for (const [name, entry] of header) arrays[name] = arrayIn(content, start, name, entry)
  if (sumOf(words[PLAN], content, start, header) !== words[SUM]) throw new ModelDamaged('its content is not what was written')
  return { ...readPlan(JSON.parse(words[PLAN]), arrays), sum: words[SUM] }
}

function readHeader(content: Uint8Array): { header: [string, Entry][]; words: Record<string, string>; start: number } {
  const view = new DataView(content.buffer, content.byteOffset, content.byteLength)
  const start = LENGTH_BYTES + Number(view.getBigUint64(0, true))
  const text = new TextDecoder('utf-8', { fatal: true }).decode(content.subarray(LENGTH_BYTES, start))
  const { __metadata__: words, ...arrays } = JSON.parse(text)
  if (typeof words[PLAN] !== 'string' || typeof words[SUM] !== 'string') throw new ModelDamaged('there is no plan in it')
  return { header: Object.entries(arrays as Record<string, Entry>), words, start }
}

function arrayIn(content: Uint8Array, start: number, name: string, entry: Entry): ModelArray {
  const kind = KINDS[entry.dtype]
  const [from, to] = entry.data_offsets
  const size = entry.shape.reduce((whole, one) => whole * one, 1)
  if (kind === undefined || to - from !== size * kind.bytes || from < 0 || start + to > content.length) {
    throw new ModelDamaged(`\`${name}\` is cut short, or of a kind that is not read here`)
  }
  // A copy: numbers of eight bytes must begin at a multiple of eight.
  return { type: kind.name, shape: entry.shape, data: kind.read(copied(content.subarray(start + from, start + to))) }
}

/** A copy, aligned by itself; Node's own kind of bytes has a `slice` that copies nothing. */
function copied(bytes: Uint8Array): ArrayBuffer {
  return new Uint8Array(bytes).buffer
}

/** Of the plan's text, and of each array, in the order of their names, what it is called and its bytes. */
function sumOf(plan: string, content: Uint8Array, start: number, header: [string, Entry][]): string {
  const text = new TextEncoder()
  const sum = new Sha256().update(text.encode(plan))
  for (const [name, { dtype, shape, data_offsets: [from, to] }] of header.slice().sort(byCodePoint)) {
    const sizes = shape.length === 1 ? `${shape[0]},` : shape.join(', ')
    sum.update(text.encode(`${name} ${KINDS[dtype].name} (${sizes})`))
    sum.update(content.subarray(start + from, start + to))
  }
  return sum.digest()
}

function byCodePoint([a]: [string, Entry], [b]: [string, Entry]): number {
  return a < b ? -1 : a > b ? 1 : 0
}
