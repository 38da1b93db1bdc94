/** Why an answer is what it is: what each value adds, what each word did, and how the answer would move with each field. */
import type { Contribution, Curve, Explanation, Inputs } from '../../src/api/client'
import { Explainer, type Explanation as Explained } from '../../runtime/explain/explainer'
import { thinned } from '../../runtime/explain/thinning'
import { explainText } from '../../runtime/explain/words'
import type { Value } from '../../runtime/blocks'
import type { Content, FieldFacts } from '../content'
import { outputNames, outputUnit } from './outputs'
import { entered, type Row, type RowModel } from './rows'

export class Explaining {
  readonly #content: Content
  readonly #model: RowModel
  #own: Explainer | null = null
  #forCurves: Explainer | null = null

  constructor(content: Content, model: RowModel) {
    this.#content = content
    this.#model = model
  }

  /** By the sample; null where none is in the file. Made when it is first needed. */
  get bySample(): Explainer | null {
    if (this.#content.sample) this.#own ??= new Explainer(this.#model.model, this.#content.sample)
    return this.#own
  }

  /** Contributions to an output by its place; null where they are not worked out here. */
  contributions(row: Row, place: number): Explained | null {
    return this.bySample?.explain(row, place) ?? null
  }

  /** The explanation as the page has it, or why there is none. */
  explanation(inputs: Inputs, row: Row, place: number): Explanation | string {
    const { answer, facts, fields } = this.#content
    const found = this.contributions(row, place)
    if (found === null) return 'The rows that contributions are counted against are not in this file.'
    if (!Object.values(found.contributions).every(Number.isFinite)) return 'The model has no number for some mixtures of this case with other ones.'
    const fixed = Object.fromEntries(fields.filter(({ hidden }) => hidden).map((field) => [field.name, field.default]))
    const given = { ...inputs, ...fixed }
    const contributions: Contribution[] = facts.map(({ name }) => ({
      field: name,
      value: (given[name] ?? null) as Contribution['value'],
      contribution: found.contributions[name] ?? 0,
      error: found.errors[name] ?? null,
    }))
    contributions.sort((a, b) => Math.abs(b.contribution) - Math.abs(a.contribution))
    return {
      of: outputNames(answer)[place],
      unit: outputUnit(answer, place),
      baseline: found.baseline,
      method: found.method,
      contributions,
      error: Math.max(0, ...Object.values(found.errors)),
      n_background: this.bySample?.nRows ?? 0,
      words: this.#words(row, place),
    }
  }

  /** The curve of every field that has one. */
  curves(row: Row, place: number): Curve[] {
    const of = outputNames(this.#content.answer)[place]
    const facts = new Map(this.#content.facts.map((one) => [one.name, one]))
    return this.#content.fields.flatMap((field) => {
      const about = facts.get(field.name)
      const curve = about && this.#curve(about, row, place)
      // A curve with holes would be drawn as something that it is not.
      if (!curve || !curve.y.every(Number.isFinite)) return []
      const x = (curve.x as Value[]).map((value) => entered(field, value))
      const [unknown] = about.optional && about.kind === 'number' ? this.#model.moved(row, field.name, [null], place).y : [null]
      return [{ ...curve, x, field: field.name, of, unknown: Number.isFinite(unknown) ? unknown : null }]
    })
  }

  /** What the words of each field of text did. */
  #words(row: Row, place: number): Explanation['words'] {
    return this.#content.fields.flatMap(({ name, kind }) => {
      const text = row[name]
      if (kind !== 'text' || typeof text !== 'string') return []
      const ask = (texts: string[]) => Float64Array.from(this.#model.moved(row, name, texts, place).y)
      return [{ field: name, ...explainText(ask, text, () => performance.now()) }]
    })
  }

  #curve({ name, kind, low, high, options, optional }: FieldFacts, row: Row, place: number): Omit<Curve, 'field' | 'of' | 'unknown'> | null {
    const asked = (values: Value[]) => this.#model.moved(row, name, values, place)
    if (kind === 'choice' || kind === 'yes_no') return { ...asked(optional ? [...options, null] : options), shape: 'options', thinned: false }
    const places = this.#content.places[name]
    if (!places) return null
    if (places.shape === 'line') return { ...asked(places.x), shape: 'line', thinned: false }
    const steps = this.#stepping?.steps(row, name, low, high, place, places.is_whole ? places.x : undefined)
    const shown = thinned(steps ?? { shape: 'steps', ...asked(places.x) })
    return { ...shown, thinned: shown.thinned || (!steps && !places.is_whole) }
  }

  /** Where curves jump depends on the model alone: any case does for a sample where none is to go along. */
  get #stepping(): Explainer | null {
    const [first] = this.#content.proof
    if (this.#content.sample === null && first) this.#forCurves ??= new Explainer(this.#model.model, this.#model.columns([first.row]))
    return this.bySample ?? this.#forCurves
  }
}
