/** Answers a case as the server does, from what the file carries. */
import type { Among, Contribution, Inputs, PredictionAnswer, SimilarCase } from '../../src/api/client'
import type { CompiledModel } from '../../runtime/model'
import { breathOf, type IsOver } from '../breath'
import type { Content } from '../content'
import { makeAnswer, saidPlace, thresholdOf, type Wording } from './answers'
import { beyondClass, beyondNumber, changeableFrom, findChanges, MOST_ROWS_ALONE } from './changes'
import { Explaining } from './explaining'
import { checkInputs } from './inputs'
import { Likenesses } from './likenesses'
import { outputNames, outputPlace } from './outputs'
import { entered, firstRows, rowAt, RowModel, type Row } from './rows'

const SIMILAR_ROWS = 5
const ROWS_AMONG = 400
/** What a slow model may take for the first round of changes, in milliseconds. */
const MOST_ALONE = 1000

export interface Wanted {
  /** `explanation`, `curves`, `similar`, `changes`. */
  parts: ReadonlySet<string>
  /** The output that is explained, by its name. */
  of?: string
  /** With `changes`: the class that is wanted, or the number that is to be reached. */
  to?: string
  reach?: number
}

export class Answerer {
  readonly #content: Content
  readonly #model: RowModel
  readonly #wording: Wording
  readonly #likenesses: Likenesses
  readonly #explaining: Explaining

  constructor(content: Content, model: CompiledModel) {
    this.#content = content
    this.#model = new RowModel(model)
    const evidence = content.is_likeness_left_out ? null : content.evidence
    this.#wording = { setting: content.answer, evidence, singular: content.singular }
    this.#likenesses = new Likenesses(content)
    this.#explaining = new Explaining(content, this.#model)
  }

  /** Throws `InputFaults`, `ModelFailed`, `NotWantedAnyMore`, or `ValueNotKnown` of the reader. */
  async predict(inputs: Inputs, { parts, of, to, reach }: Wanted, isOver: IsOver = () => false): Promise<PredictionAnswer> {
    const begun = performance.now()
    const { values: row, notes } = checkInputs(this.#content.fields, inputs as Record<string, unknown>)
    const outputs = this.outputs(row)
    const predicted = performance.now()
    const isExplained = parts.size > 0
    // Where nothing hangs on it, how like the rows it is need not be told beside a plain answer.
    const familiarity = isExplained || this.#wording.evidence ? this.#likenesses.familiarity(row) : null
    const made = makeAnswer(this.#wording, outputs, notes.length > 0 || (familiarity?.is_unlike ?? false))
    const place = outputPlace(this.#content.answer, of, outputs)
    const explanation = parts.has('explanation') ? this.#explaining.explanation(inputs, row, place) : null
    const unexplained = typeof explanation === 'string' ? [{ field: null, level: 'warn' as const, message: `The answer is not explained. ${explanation}`, code: 'not-explained' as const }] : []
    const told = {
      ...NOTHING_BESIDE,
      answer: made.answer,
      notes: [...notes, ...made.notes, ...unexplained],
      release: this.#content.page.release,
      familiarity: isExplained ? familiarity : null,
      explanation: typeof explanation === 'string' ? null : explanation,
      curves: parts.has('curves') ? this.#explaining.curves(row, place) : null,
      similar: parts.has('similar') ? this.#similar(row) : null,
      changes: parts.has('changes') ? await this.#changes(inputs, row, outputs, { to, reach, isOver }) : null,
    }
    const ended = performance.now()
    return { ...told, timing_ms: { predict: predicted - begun, explain: isExplained ? ended - predicted : null, total: ended - begun } }
  }

  /** The model's outputs for a row of its own values. */
  outputs(row: Row): number[] {
    return this.#model.outputs([row])[0]
  }

  /** Contributions to an output by its place, for a row of the model's own values; null where they are not worked out here. */
  contributions(row: Row, of: number) {
    return this.#explaining.contributions(row, of)
  }

  /** Some reference rows by one field and the model's answer to them, where that is one. */
  among(field: string, of: string): Among | null {
    const { rows, fields, answer } = this.#content
    const about = fields.find(({ name }) => name === field)
    if (!rows || !about) return null
    const place = outputPlace(answer, of, [])
    const some = firstRows(rows.columns, ROWS_AMONG)
    const y = this.#model.outputs(some).map((own) => own[place])
    const places = [...y.keys()].filter((at) => Number.isFinite(y[at]))
    return {
      field,
      of: outputNames(answer)[place],
      x: places.map((at) => entered(about, some[at][field])),
      y: places.map((at) => y[at]),
      outcomes: (rows.outcomes ? places.map((at) => rows.outcomes?.[at] ?? null) : null) as Among['outcomes'],
    }
  }

  #similar(row: Row): SimilarCase[] | null {
    const { rows, fields } = this.#content
    if (!rows || !this.#likenesses.ofRows) return null
    return this.#likenesses.ofRows.nearest(row, SIMILAR_ROWS).flatMap(({ at, distance }) => {
      const own = rowAt(rows.columns, at)
      const outputs = this.outputs(own)
      if (!outputs.every(Number.isFinite)) return []
      const inputs = Object.fromEntries(fields.filter(({ name }) => name in own).map((field) => [field.name, entered(field, own[field.name])])) as SimilarCase['inputs']
      const outcome = (rows.outcomes?.[at] ?? null) as SimilarCase['outcome']
      return [{ inputs, outcome, outcome_text: rows.outcome_texts?.[at] ?? null, answer: makeAnswer(this.#wording, outputs).answer, distance }]
    })
  }

  async #changes(inputs: Inputs, row: Row, outputs: number[], { to, reach, isOver }: { to: string | undefined; reach: number | undefined; isOver: IsOver }): Promise<PredictionAnswer['changes']> {
    const { answer, fields, changeable } = this.#content
    const now = answer.kind === 'class' ? saidPlace(answer, outputs) : 0
    const wanted = to === undefined ? null : outputNames(answer).indexOf(to)
    if (answer.kind === 'class' && wanted === now) return { ways: [], is_complete: true, reach: null, is_there: true }
    const goal = reach ?? this.#usual()
    const beyond = answer.kind === 'class' ? beyondClass(now, wanted, thresholdOf(answer)) : beyondNumber(outputs[0], goal)
    const ofRows = this.#likenesses.ofRows
    // A stranger's changes are strangers too; they are not held against it.
    const isStranger = ofRows?.familiarity(row).is_unlike ?? true
    const found = await findChanges({
      row,
      fields: changeableFrom(row, changeable),
      ask: (rows) => {
        const asked = this.#model.outputs(rows)
        return { outputs: asked, beyond: asked.map((own) => (own.every(Number.isFinite) ? beyond(own) : -Infinity)) }
      },
      isUnlike: (changed) => !isStranger && (ofRows?.familiarity(changed).is_unlike ?? false),
      affordable: Math.min(MOST_ROWS_ALONE, Math.floor(MOST_ALONE / Math.max(this.#explaining.bySample?.rowTime ?? 0, 1e-6))),
      now: () => performance.now(),
      breathe: breathOf(isOver),
    })
    const ways = found.ways.map(({ values, outputs: own }) => ({
      changes: fields.filter(({ name }) => name in values).map((field) => ({ field: field.name, before: (inputs[field.name] ?? null) as Contribution['value'], after: entered(field, values[field.name]) })),
      answer: makeAnswer(this.#wording, own).answer,
    }))
    return { ways, is_complete: found.isComplete, reach: answer.kind === 'class' ? null : goal, is_there: false }
  }

  /** The usual answer: what most cases that are out of the ordinary want to get back to. */
  #usual(): number {
    const { bySample } = this.#explaining
    if (bySample) return bySample.usual(0)
    const some = this.#model.outputs(firstRows(this.#content.rows?.columns ?? {}, ROWS_AMONG))
    return some.reduce((sum, [first]) => sum + first, 0) / some.length
  }
}

const NOTHING_BESIDE = { id: null, where: null, seen: null }
