/** Answers a case as the server does, from what the file carries. */
import type { Among, Answer, Contribution, Curve, Explanation, Field, Inputs, Note, PredictionAnswer, SimilarCase, YesNoField } from '../../src/api/client'
import { CompiledModel } from '../../runtime/model'
import { Explainer } from '../../runtime/explain/explainer'
import { explainText } from '../../runtime/explain/words'
import { thinned } from '../../runtime/explain/thinning'
import type { Value } from '../../runtime/blocks'
import type { Content, FieldFacts } from '../content'
import { likeliest, makeAnswer, saidPlace, thresholdOf, type Wording } from './answers'
import { findChanges, MOST_ROWS_ALONE, type Changeable } from './changes'
import { checkInputs, type Checked } from './inputs'
import { LikenessOfTexts } from './likenessOfTexts'
import { Similarity, type Familiarity } from './similarity'

const SIMILAR_ROWS = 5
const ROWS_AMONG = 400

type Row = Record<string, Value>

export interface Wanted {
  /** `explanation`, `curves`, `similar`, `changes`. */
  parts: ReadonlySet<string>
  /** The output that is explained, by its name. */
  of?: string
  /** With `changes`: the class that is wanted, or the number that is to be reached. */
  to?: string
  reach?: number
}

/** By so much the class that is reached must be likelier than the next. */
const LEAST_LEAD = 0.05
/** What a slow model may take for the first round of changes, in milliseconds. */
const MOST_ALONE = 1000

export class Answerer {
  readonly #content: Content
  readonly #model: CompiledModel
  readonly #wording: Wording
  readonly #similarity: Similarity | null
  readonly #texts: Map<string, LikenessOfTexts>
  #explainer: Explainer | null = null
  #curvesOnly: Explainer | null = null

  constructor(content: Content, model: CompiledModel) {
    this.#content = content
    this.#model = model
    this.#wording = { setting: content.answer, evidence: content.evidence, singular: content.singular }
    this.#similarity = content.rows && content.likeness ? new Similarity(content.rows, content.likeness) : null
    this.#texts = new Map(
      Object.entries(content.likeness_of_texts).map(([name, along]) => {
        const texts = content.rows?.columns[name].slice(0, along.n_compared) ?? []
        return [name, new LikenessOfTexts(texts.filter((text) => typeof text === 'string'), along)]
      }),
    )
  }

  /** Throws `InputFaults`, `ModelFailed`, or `ValueNotKnown` of the reader. */
  predict(inputs: Inputs, { parts, of, to, reach }: Wanted): PredictionAnswer {
    const begun = performance.now()
    const checked = checkInputs(this.#content.fields, inputs as Record<string, unknown>)
    const outputs = this.outputs(checked.values)
    const predicted = performance.now()
    const isExplained = parts.size > 0
    // Where nothing hangs on it, how like the rows it is need not be told beside a plain answer.
    const familiarity = isExplained || this.#content.evidence ? this.#familiarity(checked.values) : null
    const { answer, notes } = this.#answer(checked, outputs, familiarity)
    const place = this.#placeOf(of, outputs)
    const made: PredictionAnswer = {
      ...NOTHING_BESIDE,
      answer,
      notes: [...checked.notes, ...notes],
      release: this.#content.page.release,
      familiarity: isExplained ? familiarity : null,
      timing_ms: { predict: predicted - begun, explain: null, total: 0 },
    }
    if (parts.has('explanation')) this.#explain(made, inputs, checked.values, place)
    if (parts.has('curves')) made.curves = this.#curves(checked.values, place)
    if (parts.has('similar')) made.similar = this.#similar(checked.values)
    if (parts.has('changes')) made.changes = this.#changes(inputs, checked.values, outputs, to, reach)
    const ended = performance.now()
    made.timing_ms = { predict: predicted - begun, explain: isExplained ? ended - predicted : null, total: ended - begun }
    return made
  }

  /** The model's outputs for a row of its own values. */
  outputs(row: Row): number[] {
    return Array.from(this.#model.predict(columnsOf([row], this.#model)).data)
  }

  /** Contributions to an output by its place, for a row of the model's own values; null where they are not worked out here. */
  contributions(row: Row, of: number) {
    return this.#ready()?.explain(row, of) ?? null
  }

  /** Some reference rows by one field and the model's answer to them. */
  among(field: string, of: string): Among | null {
    const { rows, fields } = this.#content
    const about = fields.find(({ name }) => name === field)
    if (!rows || !about) return null
    const place = this.#placeOf(of, [])
    const some = Array.from({ length: Math.min(ROWS_AMONG, this.#similarity?.nRows ?? nRowsOf(rows.columns)) }, (_, at) => rowAt(rows.columns, at))
    const { data, width } = this.#model.predict(columnsOf(some, this.#model))
    const y = some.map((_, at) => data[at * width + place])
    const x = some.map((row) => entered(about, row[field]))
    return { field, of: this.#nameOf(place), x, y, outcomes: (rows.outcomes?.slice(0, some.length) ?? null) as Among['outcomes'] }
  }

  #answer({ notes }: Checked, outputs: number[], familiarity: Familiarity | null): { answer: Answer; notes: Note[] } {
    const isUnlike = notes.length > 0 || (familiarity?.is_unlike ?? false)
    // What cannot be told to be like known cases has no certainty that known cases speak for.
    return makeAnswer(this.#wording, outputs, isUnlike || this.#content.is_likeness_left_out, isUnlike)
  }

  /** How like the rows a case is, by what of it is the strangest. */
  #familiarity(row: Row): Familiarity | null {
    const found = this.#similarity ? [this.#similarity.familiarity(row)] : []
    for (const [name, likeness] of this.#texts) {
      const text = row[name]
      if (typeof text === 'string') found.push(likeness.familiarity(text))
    }
    found.sort((a, b) => Number(b.is_unlike) - Number(a.is_unlike) || a.share_as_far - b.share_as_far)
    return found[0] ?? null
  }

  #ready(): Explainer | null {
    if (this.#explainer === null && this.#content.sample) this.#explainer = new Explainer(this.#model, this.#content.sample)
    return this.#explainer
  }

  /** Where curves jump depends on the model alone: any case does for a sample where none is to go along. */
  #forCurves(): Explainer | null {
    const [first] = this.#content.proof
    if (this.#content.sample === null && first) this.#curvesOnly ??= new Explainer(this.#model, columnsOf([first.row], this.#model))
    return this.#ready() ?? this.#curvesOnly
  }

  #explain(made: PredictionAnswer, inputs: Inputs, row: Row, place: number): void {
    const found = this.contributions(row, place)
    if (found === null || !Object.values(found.contributions).every(Number.isFinite)) {
      const why = found === null ? 'The rows that contributions are counted against are not in this file.' : 'The model has no number for some mixtures of this case with other ones.'
      made.notes.push({ field: null, level: 'warn', message: `The answer is not explained. ${why}`, code: 'not-explained' })
      return
    }
    const entered = { ...inputs, ...Object.fromEntries(this.#content.fields.filter(({ hidden }) => hidden).map((field) => [field.name, field.default])) }
    const contributions: Contribution[] = this.#content.facts.map(({ name }) => ({
      field: name,
      value: (entered[name] ?? null) as Contribution['value'],
      contribution: found.contributions[name] ?? 0,
      error: found.errors[name] ?? null,
    }))
    contributions.sort((a, b) => Math.abs(b.contribution) - Math.abs(a.contribution))
    made.explanation = {
      of: this.#nameOf(place),
      unit: this.#unitOf(place),
      baseline: found.baseline,
      method: found.method,
      contributions,
      error: Math.max(0, ...Object.values(found.errors)),
      n_background: this.#explainer?.nRows ?? 0,
      words: this.#words(row, place),
    } satisfies Explanation
  }

  /** What the words of each field of text did. */
  #words(row: Row, place: number): Explanation['words'] {
    return this.#content.fields.flatMap(({ name, kind }) => {
      const text = row[name]
      if (kind !== 'text' || typeof text !== 'string') return []
      const ask = (texts: string[]) => Float64Array.from(this.#asking(texts.map((one) => ({ ...row, [name]: one }))), (own) => own[place])
      return [{ field: name, ...explainText(ask, text, () => performance.now()) }]
    })
  }

  #curves(row: Row, place: number): Curve[] {
    const of = this.#nameOf(place)
    const facts = new Map(this.#content.facts.map((one) => [one.name, one]))
    return this.#content.fields.flatMap((field) => {
      const about = facts.get(field.name)
      const curve = about && this.#curve(about, row, place)
      // A curve with holes would be drawn as something that it is not.
      if (!curve || !curve.y.every(Number.isFinite)) return []
      const x = (curve.x as Value[]).map((value) => entered(field, value))
      const unknown = about.optional && about.kind === 'number' ? this.outputs({ ...row, [field.name]: null })[place] : null
      return [{ ...curve, x, field: field.name, of, unknown: Number.isFinite(unknown) ? unknown : null }]
    })
  }

  #curve({ name, kind, low, high, options, optional }: FieldFacts, row: Row, place: number): Omit<Curve, 'field' | 'of' | 'unknown'> | null {
    if (kind === 'choice' || kind === 'yes_no') return { ...this.#asked(name, row, optional ? [...options, null] : options, place), shape: 'options', thinned: false }
    const places = this.#content.places[name]
    if (!places) return null
    if (places.shape === 'line') return { ...this.#asked(name, row, places.x, place), shape: 'line', thinned: false }
    const steps = this.#forCurves()?.steps(row, name, low, high, place, places.x) ?? { shape: 'steps' as const, ...this.#asked(name, row, places.x, place) }
    return thinned(steps)
  }

  /** The output at each of some values of a field. */
  #asked(name: string, row: Row, values: Value[], place: number): { x: Value[]; y: number[] } {
    const { data, width } = this.#model.predict(columnsOf(values.map((value) => ({ ...row, [name]: value })), this.#model))
    return { x: [...values], y: values.map((_, at) => data[at * width + place]) }
  }

  #changes(inputs: Inputs, row: Row, outputs: number[], to: string | undefined, reach: number | undefined): PredictionAnswer['changes'] {
    const { answer, fields } = this.#content
    const now = answer.kind === 'class' ? saidPlace(answer, outputs) : 0
    const wanted = to === undefined ? null : this.#names().indexOf(to)
    if (answer.kind === 'class' && wanted === now) return { ways: [], is_complete: true, reach: null, is_there: true }
    const goal = reach ?? this.#usual()
    const beyond = answer.kind === 'class' ? beyondClass(now, wanted, thresholdOf(answer)) : beyondNumber(outputs[0], goal)
    const isStranger = this.#similarity?.familiarity(row).is_unlike ?? false
    const found = findChanges({
      row,
      fields: this.#changeable(row),
      ask: (rows) => {
        const asked = this.#asking(rows)
        return { outputs: asked, beyond: asked.map((own) => (own.every(Number.isFinite) ? beyond(own) : -Infinity)) }
      },
      // A stranger's changes are strangers too; they are not held against it.
      isUnlike: (changed) => !isStranger && (this.#similarity?.familiarity(changed).is_unlike ?? false),
      affordable: Math.min(MOST_ROWS_ALONE, Math.floor(MOST_ALONE / Math.max(this.#ready()?.rowTime ?? 0, 1e-6))),
      now: () => performance.now(),
    })
    const ways = found.ways.map(({ values, outputs: own }) => ({
      changes: fields.filter(({ name }) => name in values).map((field) => ({ field: field.name, before: (inputs[field.name] ?? null) as Contribution['value'], after: entered(field, values[field.name]) })),
      answer: makeAnswer(this.#wording, own, false, false).answer,
    }))
    return { ways, is_complete: found.isComplete, reach: answer.kind === 'class' ? null : goal, is_there: false }
  }

  /** What may change about a case, with the values that are allowed from where it stands. */
  #changeable(row: Row): Changeable[] {
    return Object.entries(this.#content.changeable).flatMap(([name, { direction, ...one }]) => {
      const now = row[name]
      if (one.is_number && now === null) return []
      const isAllowed = (value: Value) => value !== now && (direction === 'any' || !one.is_number || Number(value) > Number(now) === (direction === 'up'))
      return [{ ...one, name, values: one.values.filter(isAllowed) }]
    })
  }

  /** The usual answer: what most cases that are out of the ordinary want to get back to. */
  #usual(): number {
    const explainer = this.#ready()
    if (explainer) return explainer.usual(0)
    const { rows } = this.#content
    const some = rows ? Array.from({ length: Math.min(ROWS_AMONG, nRowsOf(rows.columns)) }, (_, at) => rowAt(rows.columns, at)) : []
    return this.#asking(some).reduce((sum, [first]) => sum + first, 0) / some.length
  }

  /** The outputs of many rows. */
  #asking(rows: readonly Row[]): number[][] {
    const { data, width } = this.#model.predict(columnsOf(rows, this.#model))
    return rows.map((_, at) => Array.from(data.subarray(at * width, (at + 1) * width)))
  }

  #similar(row: Row): SimilarCase[] | null {
    const { rows, fields } = this.#content
    if (!rows || !this.#similarity) return null
    return this.#similarity.nearest(row, SIMILAR_ROWS).map(({ at, distance }) => {
      const own = rowAt(rows.columns, at)
      return {
        inputs: Object.fromEntries(fields.filter(({ name }) => name in own).map((field) => [field.name, entered(field, own[field.name])])) as SimilarCase['inputs'],
        outcome: (rows.outcomes?.[at] ?? null) as SimilarCase['outcome'],
        outcome_text: rows.outcome_texts?.[at] ?? null,
        answer: makeAnswer(this.#wording, this.outputs(own), false, false).answer,
        distance,
      }
    })
  }

  /** The output that is explained: the one named, the one with a threshold, or the likeliest class or label. */
  #placeOf(of: string | undefined, outputs: number[]): number {
    const { answer } = this.#content
    if (of !== undefined) return Math.max(0, this.#names().indexOf(of))
    const threshold = answer.kind === 'class' ? thresholdOf(answer) : null
    if (threshold) return threshold.place
    return answer.kind === 'class' || answer.kind === 'labels' ? likeliest(outputs) : 0
  }

  #nameOf(place: number): string {
    return this.#names()[place]
  }

  #names(): string[] {
    const { answer } = this.#content
    if (answer.kind === 'class') return answer.classes.map(({ name }) => name)
    if (answer.kind === 'labels') return answer.labels.map(({ name }) => name)
    if (answer.kind === 'numbers') return answer.values.map(({ name }) => name ?? '')
    return ['name' in answer ? (answer.name ?? '') : '']
  }

  #unitOf(place: number): string {
    const { answer } = this.#content
    if (answer.kind === 'number') return answer.unit ?? ''
    return answer.kind === 'numbers' ? (answer.values[place].unit ?? '') : 'probability'
  }
}

const NOTHING_BESIDE = { id: null, explanation: null, curves: null, familiarity: null, similar: null, changes: null, where: null, seen: null }

/** How far a class that is wanted, or any other than `now`, is ahead; of two classes past the threshold by half the lead. */
function beyondClass(now: number, wanted: number | null, threshold: { place: number; least: number } | null): (outputs: number[]) => number {
  if (threshold) {
    const side = now === threshold.place ? -1 : 1
    return (outputs) => side * (outputs[threshold.place] - threshold.least) - LEAST_LEAD / 2
  }
  const place = wanted ?? now
  return (outputs) => {
    const ahead = outputs[place] - Math.max(...outputs.filter((_, at) => at !== place))
    return (wanted === null ? -ahead : ahead) - LEAST_LEAD
  }
}

/** How far a number is at or beyond what is wanted. */
function beyondNumber(now: number, reach: number): (outputs: number[]) => number {
  const side = reach >= now ? 1 : -1
  return ([value]) => side * (value - reach) + Number.MIN_VALUE
}

/** A value that the model knows, as a visitor gives it. */
function entered(field: Field, value: Value): Value {
  return field.kind === 'yes_no' && value !== null ? value === (field as YesNoField).yes : value
}

function columnsOf(rows: readonly Row[], { inputs }: CompiledModel): Record<string, Value[]> {
  return Object.fromEntries(inputs.map(({ name }) => [name, rows.map((row) => row[name])]))
}

function nRowsOf(columns: Record<string, Value[]>): number {
  return Object.values(columns)[0]?.length ?? 0
}

function rowAt(columns: Record<string, Value[]>, at: number): Row {
  return Object.fromEntries(Object.entries(columns).map(([name, values]) => [name, values[at]]))
}
