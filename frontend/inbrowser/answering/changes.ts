/**
 * The smallest believable changes that bring another answer, as the server finds them: single fields first, then pairs,
 * then triples; what one field can do alone is not offered again with others beside it.
 */
import type { Value } from '../../runtime/blocks'
import type { Changeable as Along } from '../content'
import { rounded, significant } from './rounding'
import type { Breath } from '../breath'
import type { Row } from './rows'

/** A field that may change: its believable values, and how they spread (1 for options). */
export interface Changeable {
  name: string
  values: Value[]
  is_number: boolean
  spread: number
  step: number
}

/** Outputs of many rows, and how far beyond the goal each is: above 0 where it is reached. */
export interface Asked {
  beyond: number[]
  outputs: number[][]
}

export interface Way {
  values: Row
  outputs: number[]
  size: number
}

export interface Found {
  ways: Way[]
  /** Not if the time did not allow for all that is usually tried, be it to make a way that was found smaller. */
  isComplete: boolean
}

export interface Search {
  row: Row
  fields: Changeable[]
  ask: (rows: Row[]) => Asked
  /** Whether a row is not believable as a whole. */
  isUnlike: (row: Row) => boolean
  /** How many rows may be asked about for single fields. */
  affordable: number
  now: () => number
  /** What lets others go before. */
  breathe: Breath
}

const MOST_WAYS = 4
/** Asked about in one go. */
const ROWS_AT_ONCE = 100
export const MOST_ROWS_ALONE = 4000
const VALUES_ALONE = 24
const TOGETHER = [
  { size: 2, nFields: 7, nValues: 9 },
  { size: 3, nFields: 5, nValues: 5 },
]
const MOST_ROWS_TOGETHER = 2000
const FEWEST_VALUES = 3
const REFINEMENTS = 3
/** Of those that reach the goal with the same fields, so many are looked at, the smallest first. */
const MOST_LOOKED_AT = 8
/** In milliseconds; nothing more is begun after it. */
const MOST_TIME = 4000

/** By so much the class that is reached must be likelier than the next. */
const LEAST_LEAD = 0.05

/** How far a class that is wanted, or any other than `now`, is ahead; of two classes past the threshold by half the lead. */
export function beyondClass(now: number, wanted: number | null, threshold: { place: number; least: number } | null): (outputs: number[]) => number {
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
export function beyondNumber(now: number, reach: number): (outputs: number[]) => number {
  const side = reach >= now ? 1 : -1
  return ([value]) => side * (value - reach) + Number.MIN_VALUE
}

/** What may change about a case, with the values that are allowed from where it stands. */
export function changeableFrom(row: Row, along: Record<string, Along>): Changeable[] {
  return Object.entries(along).flatMap(([name, { direction, ...one }]) => {
    const now = row[name]
    if (one.is_number && now === null) return []
    const isAllowed = (value: Value) => value !== now && (direction === 'any' || !one.is_number || Number(value) > Number(now) === (direction === 'up'))
    return [{ ...one, name, values: one.values.filter(isAllowed) }]
  })
}

/** Throws what `breathe` does. */
export async function findChanges(search: Search): Promise<Found> {
  const usable = search.fields.filter(({ values }) => values.length > 0)
  if (usable.length === 0) return { ways: [], isComplete: true }
  const fields = usable.slice(0, Math.floor(search.affordable / FEWEST_VALUES))
  const own = new Changes({ ...search, fields }, search.now() + MOST_TIME)
  const ways = await own.alone(Math.max(FEWEST_VALUES, Math.floor(search.affordable / Math.max(1, fields.length))))
  const done = new Set(ways.flatMap(({ values }) => Object.keys(values)))
  for (const { size, nFields, nValues } of TOGETHER) {
    if (ways.length >= MOST_WAYS || (size === 3 && ways.length > 0)) break
    if (own.isOver || search.affordable < MOST_ROWS_TOGETHER) return { ways: smallest(ways), isComplete: false }
    ways.push(...(await own.together(own.promising.filter((name) => !done.has(name)).slice(0, nFields), size, nValues)))
  }
  return { ways: smallest(ways), isComplete: fields.length === usable.length && !own.wasCut }
}

function smallest(ways: Way[]): Way[] {
  return ways.slice().sort((a, b) => a.size - b.size).slice(0, MOST_WAYS)
}

class Changes {
  /** Fields by how near to the goal they get alone, best first. */
  promising: string[] = []
  /** Whether something was left out that a faster model, or more time, would have been asked about. */
  wasCut = false
  readonly #search: Search
  readonly #deadline: number
  readonly #fields: Map<string, Changeable>

  constructor(search: Search, deadline: number) {
    this.#search = search
    this.#deadline = deadline
    this.#fields = new Map(search.fields.map((one) => [one.name, one]))
  }

  get isOver(): boolean {
    return this.#search.now() > this.#deadline
  }

  async alone(mostValues: number): Promise<Way[]> {
    const tried = [...this.#fields.values()].flatMap(({ name, values }) => some(values, Math.min(mostValues, VALUES_ALONE)).map((value): Row => ({ [name]: value })))
    if (tried.length === 0) return []
    this.wasCut ||= [...this.#fields.values()].some(({ values }) => mostValues < Math.min(values.length, VALUES_ALONE))
    const asked = await this.#ask(tried)
    const best = new Map<string, number>()
    for (const [at, values] of tried.entries()) {
      const [name] = Object.keys(values)
      best.set(name, Math.max(best.get(name) ?? -Infinity, asked.beyond[at]))
    }
    this.promising = [...best.keys()].sort((a, b) => (best.get(b) ?? 0) - (best.get(a) ?? 0))
    return this.#smallestOfEach(tried, asked)
  }

  async together(names: string[], size: number, nValues: number): Promise<Way[]> {
    const tried = combinations(names, size).flatMap((own) =>
      product(own.map((name) => some(this.#fieldOf(name).values, nValues))).map((values) => Object.fromEntries(own.map((name, at) => [name, values[at]]))),
    )
    return tried.length === 0 ? [] : this.#smallestOfEach(tried, await this.#ask(tried))
  }

  /** Of each set of fields the smallest believable change that reaches the goal, made smaller still. */
  async #smallestOfEach(tried: Row[], { beyond, outputs }: Asked): Promise<Way[]> {
    const reached = new Map<string, number[]>()
    for (const [at, values] of tried.entries()) {
      if (!(beyond[at] > 0)) continue
      const key = JSON.stringify(Object.keys(values))
      reached.set(key, [...(reached.get(key) ?? []), at])
    }
    const found: Way[] = []
    for (const places of reached.values()) {
      places.sort((a, b) => this.#size(tried[a]) - this.#size(tried[b]))
      const at = await this.#believable(places, tried)
      if (at !== undefined) found.push(await this.#refined({ values: tried[at], outputs: outputs[at], size: this.#size(tried[at]) }))
    }
    found.sort((a, b) => a.size - b.size)
    return different(found)
  }

  /** Numbers moved back towards the case, step by step of their controls, as far as the goal stays reached. */
  async #refined(start: Way): Promise<Way> {
    let way = start
    for (let turn = 0; turn < REFINEMENTS; turn++) {
      if (this.isOver) {
        this.wasCut = true
        return way
      }
      const { values } = way
      const between = Object.keys(values)
        .filter((name) => this.#fieldOf(name).is_number)
        .flatMap((name) => this.#between(this.#fieldOf(name), Number(values[name])).map((value): Row => ({ ...values, [name]: value })))
      this.wasCut ||= between.length > this.#search.affordable
      const tried = some(between, this.#search.affordable)
      if (tried.length === 0) return way
      const { beyond, outputs } = await this.#ask(tried)
      const order = [...tried.keys()].filter((at) => beyond[at] > 0).sort((a, b) => this.#size(tried[a]) - this.#size(tried[b]))
      const better = await this.#believable(order, tried)
      if (better === undefined || this.#size(tried[better]) >= way.size) return way
      way = { values: tried[better], outputs: outputs[better], size: this.#size(tried[better]) }
    }
    return way
  }

  #between({ name, values, step }: Changeable, value: number): number[] {
    const now = this.#search.row[name]
    if (typeof now !== 'number') return []
    const [low, high] = [Math.min(...values.map(Number), value), Math.max(...values.map(Number), value)]
    const places = evenly(now, value, VALUES_ALONE + 2).slice(1, -1)
    const found = new Set(places.map((place) => snapped(place, step, low, high)))
    return [...found].filter((one) => one !== now && one !== value).sort((a, b) => a - b)
  }

  #size(values: Row): number {
    let size = 0
    for (const [name, value] of Object.entries(values)) {
      const { is_number: isNumber, spread } = this.#fieldOf(name)
      const now = this.#search.row[name]
      size += 1 + (isNumber && now !== null ? Math.abs(Number(value) - Number(now)) / spread : 1)
    }
    return size
  }

  /** The first of the first few places whose row is believable as a whole. */
  async #believable(places: number[], tried: Row[]): Promise<number | undefined> {
    for (const place of places.slice(0, MOST_LOOKED_AT)) {
      if (!this.#search.isUnlike({ ...this.#search.row, ...tried[place] })) return place
      await this.#search.breathe()
    }
    return undefined
  }

  async #ask(tried: Row[]): Promise<Asked> {
    const asked: Asked = { beyond: [], outputs: [] }
    for (let at = 0; at < tried.length; at += ROWS_AT_ONCE) {
      const { beyond, outputs } = this.#search.ask(tried.slice(at, at + ROWS_AT_ONCE).map((values) => ({ ...this.#search.row, ...values })))
      asked.beyond.push(...beyond)
      asked.outputs.push(...outputs)
      await this.#search.breathe()
    }
    return asked
  }

  #fieldOf(name: string): Changeable {
    return this.#fields.get(name) as Changeable
  }
}

/** Of ways that share a field in a pair or triple, the smaller; single fields are different anyway. */
function different(ways: Way[]): Way[] {
  const kept: Way[] = []
  for (const way of ways) {
    const names = Object.keys(way.values)
    if (kept.every((other) => names.filter((name) => name in other.values).length < names.length)) kept.push(way)
  }
  return kept.slice(0, MOST_WAYS)
}

/** Evenly picked values, the first and the last among them. */
function some<One>(values: One[], most: number): One[] {
  if (values.length <= most) return values
  const places = new Set(evenly(0, values.length - 1, most).map((place) => rounded(place, 0)))
  return [...places].map((at) => values[at])
}

function evenly(from: number, to: number, n: number): number[] {
  const step = (to - from) / (n - 1)
  return Array.from({ length: n }, (_, at) => (at === n - 1 ? to : at * step + from))
}

/** A value on the control's steps, inside the range; the range's own end where no step is inside. */
function snapped(value: number, step: number, low: number, high: number): number {
  const onStep = Number(significant(rounded(value / step, 0) * step, 10))
  return Math.min(Math.max(onStep, low), high)
}

function combinations<One>(all: One[], size: number): One[][] {
  if (size === 0) return [[]]
  return all.flatMap((one, at) => combinations(all.slice(at + 1), size - 1).map((rest) => [one, ...rest]))
}

function product<One>(sets: One[][]): One[][] {
  return sets.reduce<One[][]>((made, set) => made.flatMap((before) => set.map((one) => [...before, one])), [[]])
}
