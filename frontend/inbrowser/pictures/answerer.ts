/** Answers a case that is a picture or a drawing, as the server does: the model is asked in this browser. */
import type { Explanation, Inputs, PredictionAnswer } from '../../src/api/client'
import type { Where } from '../../src/api/picture'
import { asInput } from '../../runtime/pictures/preparing'
import type { Asked, Told } from '../requests'
import type { Content } from '../content'
import { makeAnswer, type Wording } from '../answering/answers'
import type { Familiarity } from '../answering/similarity'
import { outputNames, outputPlace, outputUnit } from '../answering/outputs'
import { asShown } from './decoding'
import { preparationOf, readPicture, type Given, type Read, type SeenField } from './inputs'
import { KnownPictures, type LikenessOfPictures } from './likeness'
import { coveredOf, looked } from './looking'
import type { PictureModel } from './model'
import type { GraphReading } from './session'

/** Longest side of what is shown of what the model sees. */
const SHOWN_SIDE = 448

/** What goes along where the model looks at pictures. */
export interface Looks {
  /** Null where the model is a compiled one of flattened pixels. */
  graph: GraphReading | null
  /** The demo's own pictures and drawings, by `number.field`. */
  samples: Record<string, Given>
  likeness: LikenessOfPictures | null
}

export interface Wanted {
  parts: ReadonlySet<string>
  of?: string
}

export class PictureAnswerer {
  readonly #content: Content
  readonly #looks: Looks
  readonly #model: PictureModel
  readonly #field: SeenField
  readonly #wording: Wording
  readonly #known: KnownPictures | null
  /** The last picture: it is asked about again at once, for the answer, then for why. */
  #last: { given: string; file: Blob | undefined; read: Promise<Read> } | null = null

  constructor(content: Content, looks: Looks, model: PictureModel) {
    this.#content = content
    this.#looks = looks
    this.#model = model
    this.#field = content.fields[0] as SeenField
    this.#wording = { setting: content.answer, evidence: content.evidence, singular: content.singular }
    this.#known = looks.likeness && new KnownPictures(looks.likeness)
  }

  /** Throws `InputFaults` or `ModelFailed`. */
  async predict(inputs: Inputs, { parts, of }: Wanted): Promise<PredictionAnswer> {
    const begun = performance.now()
    const read = await this.#read(inputs)
    const outputs = await this.#outputs(read)
    const predicted = performance.now()
    const familiarity = this.#familiarity(read)
    const made = makeAnswer(this.#wording, outputs, familiarity?.is_unlike ?? false)
    const place = outputPlace(this.#content.answer, of, outputs)
    const isExplained = parts.size > 0
    const told = {
      id: null,
      where: null,
      curves: null,
      similar: null,
      changes: null,
      answer: made.answer,
      notes: [...made.notes, ...read.notes],
      release: this.#content.page.release,
      familiarity: isExplained ? familiarity : null,
      explanation: parts.has('explanation') ? await this.#explanation(read, place, outputs[place]) : null,
      seen: parts.has('seen') ? { [this.#field.name]: await asShown(read.seen, SHOWN_SIDE) } : null,
    }
    const ended = performance.now()
    return { ...told, timing_ms: { predict: predicted - begun, explain: isExplained ? ended - predicted : null, total: ended - begun } }
  }

  /** Where the model looked, line by line. Throws `InputFaults`, `ModelFailed` or `TooSlow`. */
  async *where({ inputs, query }: Asked, isOver: () => boolean): AsyncGenerator<Where> {
    const read = await this.#read(inputs)
    const outputs = query.of === undefined ? await this.#outputs(read) : []
    const place = outputPlace(this.#content.answer, query.of, outputs)
    const { answer } = this.#content
    yield* looked(this.#model, { field: this.#field, read, place, of: outputNames(answer)[place], unit: outputUnit(answer, place) }, isOver)
  }

  /** The model's outputs for a case that came along. */
  async outputs(row: Record<string, unknown>): Promise<number[]> {
    return this.#outputs(await this.#read(row as Inputs))
  }

  /** What a picture that came along adds to the answer of a covered one. */
  async contributions(row: Record<string, unknown>, place: number) {
    const read = await this.#read(row as Inputs)
    const own = await this.#outputs(read)
    return this.#byPicture(read, place, own[place])
  }

  /** The content of one of the demo's own pictures, for the page to show; null where there is none. */
  sample(name: string): Told | null {
    const data = this.#looks.samples[name]?.data
    if (data === undefined) return null
    const plain = data.startsWith('data:') ? data.slice(data.indexOf(',') + 1) : data
    return { status: 200, body: null, bytes: Uint8Array.from(atob(plain), (character) => character.charCodeAt(0)) }
  }

  #read(inputs: Inputs): Promise<Read> {
    const own = inputs[this.#field.name] as unknown as Given | undefined
    const given = JSON.stringify({ ...inputs, [this.#field.name]: { ...own, file: undefined } })
    if (!this.#last || this.#last.given !== given || this.#last.file !== own?.file) {
      this.#last = { given, file: own?.file, read: readPicture(this.#field, inputs, this.#looks.samples) }
    }
    return this.#last.read
  }

  async #outputs({ seen }: Read): Promise<number[]> {
    const [own] = await this.#model.outputs([asInput(seen, preparationOf(this.#field))])
    return own
  }

  #familiarity({ seen }: Read): Familiarity | null {
    // Prepared otherwise than they were, pictures are not compared with the known ones.
    const isAsDescribed = this.#looks.likeness !== null && sameSettings(this.#looks.likeness.described_as, this.#field.preparation)
    return isAsDescribed ? (this.#known?.familiarity(seen) ?? null) : null
  }

  async #byPicture(read: Read, place: number, answer: number) {
    const [covered] = await this.#model.outputs([coveredOf(this.#field, read)])
    return { method: 'exact-enumeration' as const, baseline: covered[place], contributions: { [this.#field.name]: answer - covered[place] } }
  }

  async #explanation(read: Read, place: number, answer: number): Promise<Explanation> {
    const { method, baseline, contributions } = await this.#byPicture(read, place, answer)
    const setting = this.#content.answer
    return {
      of: outputNames(setting)[place],
      unit: outputUnit(setting, place),
      baseline,
      method,
      contributions: [{ field: this.#field.name, value: null, contribution: contributions[this.#field.name], error: null }],
      error: 0,
      n_background: 0,
      words: [],
    }
  }
}

function sameSettings(one: unknown, other: unknown): boolean {
  const [own, others] = [one, other].map((settings) => Object.entries(settings as Record<string, unknown>).sort(([a], [b]) => (a < b ? -1 : 1)))
  return JSON.stringify(own) === JSON.stringify(others)
}
