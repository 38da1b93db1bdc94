/** What a page that needs no server carries: the demo as its pages ask for it, and all that its answers rest on. */
import type { AnswerSetting, Field, FullReport, Overall, Page } from '../src/api/client'
import { gunzipSync } from 'fflate'
import { CompiledModel } from '../runtime/model'
import type { Looks } from './pictures/answerer'
import { Sha256 } from '../runtime/sha256'
import type { Value } from '../runtime/blocks'

export interface FieldFacts {
  name: string
  kind: Field['kind']
  low: number
  high: number
  options: Value[]
  optional: boolean
}

/** What known cases say of the model, or of one of its outputs. */
export interface Evidence {
  /** For each whole percent from 50 to 99 how far off an answer may be. */
  margins: (number | null)[]
  /** For each class the stretches of whole percents at which its probability comes true. */
  borne_out: [number, number][][]
  outputs: Evidence[]
}

/** The rows of the reference table, where their author lets them go along. */
export interface Rows {
  columns: Record<string, Value[]>
  outcomes: Value[] | null
  /** What happened, in the page's words, one a row. */
  outcome_texts: (string | null)[] | null
}

/** How a case is compared with the rows. */
export interface Likeness {
  numbers: string[]
  options: string[]
  spread: number[]
  /** How far some rows are from those next to them, the nearest first. */
  usual: number[]
  n_needed: number
  n_compared: number
}

/** How a text is compared with those of the rows. */
export interface LikenessOfText {
  /** How many of the rows it is compared with. */
  n_compared: number
  unit: number
  threshold: number
  usual: number[]
}

/** A field that a visitor could change, with the values worth trying. */
export interface Changeable {
  is_number: boolean
  values: Value[]
  spread: number
  step: number
  direction: 'any' | 'up' | 'down'
}

/** A case with what the server said of it. */
export interface ReferenceAnswer {
  row: Record<string, Value>
  outputs: number[]
  of: number | null
  /** How contributions were worked out. */
  method: string | null
  baseline: number | null
  contributions: Record<string, number> | null
}

export interface Content {
  version: number
  /** The page as the server gives it, but for what a file cannot do. */
  page: Page
  fields: Field[]
  answer: AnswerSetting
  facts: FieldFacts[]
  /** One of what each class is, by the class's name: "cracks" of "crack". */
  singular: Record<string, string>
  evidence: Evidence | null
  sample: Record<string, Value[]> | null
  rows: Rows | null
  likeness: Likeness | null
  /** By field of text. */
  likeness_of_texts: Record<string, LikenessOfText>
  /** Whether the server could tell what is unlike anything seen, and this file cannot. */
  is_likeness_left_out: boolean
  /** Of each number where its curve jumps, or is asked, or of very many jumps some; of a model without curves nothing. */
  places: Record<string, { shape: 'steps' | 'line'; x: number[]; is_whole: boolean }>
  /** By field; none where what would change an answer is not looked for. */
  changeable: Record<string, Changeable>
  overall: Record<string, Overall>
  report: FullReport | null
  proof: ReferenceAnswer[]
  /** Where the model looks at pictures: how, and the demo's own ones. */
  looks: Looks | null
  /** What the model's file is known again by. */
  model_sum: string
}

/** The file is not what was written: cut short on its way, or changed. */
export class FileDamaged extends Error {
  override name = 'FileDamaged'
}

const VERSION = 3

/**
 * What answers rest on and the model, both packed: as they stand in a file, or as a server sent them. Of a file also
 * what it says the first one is known again by; else empty.
 */
export interface Blocks {
  content: string | ArrayBuffer
  model: string | ArrayBuffer
  mark: string
  /** What runs ONNX graphs. */
  engine?: string | ArrayBuffer
}

/** The model that goes with the content. Throws `FileDamaged`, or `ModelDamaged`. */
export async function readModel({ model: packed }: Blocks, content: Content): Promise<CompiledModel> {
  // It is checked against the sum that it states itself, and that against what the content says.
  const model = new CompiledModel(await unpacked(packed))
  if (model.plan.sum !== content.model_sum) throw new FileDamaged(OTHER_MODEL)
  return model
}

/** The same of an ONNX graph, with what runs it; it is checked against the sum of its file. Throws `FileDamaged`. */
export async function readPictureModel({ model: packed, engine: packedEngine }: Blocks, content: Content): Promise<{ model: Uint8Array; engine: Uint8Array }> {
  const [model, engine] = await Promise.all([unpacked(packed), unpacked(packedEngine ?? '')])
  if (new Sha256().update(model).digest() !== content.model_sum) throw new FileDamaged(OTHER_MODEL)
  return { model, engine }
}

const OTHER_MODEL = 'Another model is in it than was put in.'

/** What answers rest on: all that the page itself needs. Throws `FileDamaged`. */
export async function readContent({ content: packed, mark }: Blocks): Promise<Content> {
  const bytes = await unpacked(packed)
  if (mark !== '' && new Sha256().update(bytes).digest() !== mark) throw new FileDamaged('Its content is not what was written.')
  const content = JSON.parse(new TextDecoder().decode(bytes)) as Content
  if (content.version !== VERSION) throw new FileDamaged(`It says to be of version ${content.version}; version ${VERSION} is read here.`)
  return content
}

async function unpacked(block: string | ArrayBuffer): Promise<Uint8Array> {
  try {
    const packed = typeof block === 'string' ? bytesOf(atob(block.trim())) : new Uint8Array(block)
    // What a browser has for it is several times as fast; not all have it.
    if (typeof DecompressionStream === 'undefined') return gunzipSync(packed)
    const stream = new Blob([packed]).stream().pipeThrough(new DecompressionStream('gzip'))
    return new Uint8Array(await new Response(stream).arrayBuffer())
  } catch {
    throw new FileDamaged('A part of it is missing, or is not what was written.')
  }
}

/** Each sign of a text as a byte. */
function bytesOf(text: string): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(text.length)
  for (let at = 0; at < text.length; at++) bytes[at] = text.charCodeAt(at)
  return bytes
}
