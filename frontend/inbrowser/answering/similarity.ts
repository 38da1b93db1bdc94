/** How like the reference rows a case is, as the server tells it: the root mean square of how they differ, by field. */
import type { Value } from '../../runtime/blocks'
import type { Likeness, Rows } from '../content'

const STRANGE_SHARE = 0.01

export interface Familiarity {
  distance: number
  share_as_far: number
  is_unlike: boolean
}

export class Similarity {
  readonly #nRows: number
  readonly #likeness: Likeness
  /** By field of numbers, scaled by how they spread; NaN for a gap. */
  readonly #known: Float64Array[]
  readonly #options: (readonly Value[])[]

  constructor(rows: Rows, likeness: Likeness) {
    this.#likeness = likeness
    this.#nRows = Object.values(rows.columns)[0]?.length ?? 0
    this.#known = likeness.numbers.map((name, at) => Float64Array.from(rows.columns[name], (value) => numberOf(value) / likeness.spread[at]))
    this.#options = likeness.options.map((name) => rows.columns[name])
  }

  familiarity(row: Record<string, Value>): Familiarity {
    const { usual, n_needed: needed, n_compared: compared } = this.#likeness
    const distance = this.#distances(row, compared).sort()[needed - 1]
    const nAsFar = usual.filter((one) => one >= distance).length
    const share = (1 + nAsFar) / (1 + usual.length)
    return { distance, share_as_far: share, is_unlike: share < STRANGE_SHARE }
  }

  /** The nearest rows, nearest first, with how far away they are. */
  nearest(row: Record<string, Value>, most: number): { at: number; distance: number }[] {
    const away = this.#distances(row, this.#nRows)
    const order = Array.from(away, (_, at) => at).sort((a, b) => away[a] - away[b])
    return order.slice(0, most).map((at) => ({ at, distance: away[at] }))
  }

  #distances(row: Record<string, Value>, most: number): Float64Array {
    const { numbers, options, spread } = this.#likeness
    const total = new Float64Array(Math.min(most, this.#nRows))
    for (const [at, name] of numbers.entries()) {
      const own = numberOf(row[name]) / spread[at]
      const known = this.#known[at]
      for (let place = 0; place < total.length; place++) total[place] += squareApart(known[place], own)
    }
    const differing = new Float64Array(total.length)
    for (const [at, name] of options.entries()) {
      const known = this.#options[at]
      for (let place = 0; place < total.length; place++) if (known[place] !== row[name]) differing[place] += 1
    }
    const nFields = Math.max(1, numbers.length + options.length)
    return total.map((sum, place) => Math.sqrt((sum + differing[place]) / nFields))
  }
}

/** A gap is as far from any number as numbers are on average, and no way from another gap. */
function squareApart(known: number, own: number): number {
  if (Number.isNaN(known) || Number.isNaN(own)) return Number.isNaN(known) && Number.isNaN(own) ? 0 : 1
  return (known - own) * (known - own)
}

function numberOf(value: Value): number {
  return value === null ? Number.NaN : Number(value)
}
