/** The case among the reference cases: what is seen of them, as pure functions. */
import { ofHundred } from './ofHundred'
import type { Among, Field, InputValue } from '../api/client'

export interface View {
  from: number
  to: number
}

export interface Dot {
  /** Where it stands across, from 0 to 1; options stand in columns of their own, a little apart from each other. */
  across: number
  y: number
  outcome: string | number | null
}

/** How far a step closer or further goes. */
const ZOOM = 2
const NARROWEST_SHARE = 1 / 32
/** Of an option's column, how much its dots may use. */
const COLUMN_SHARE = 0.7

/** All values of a field, with room for the visitor's own. */
export function wholeView(field: Field, among: Among, value: InputValue): View {
  if (field.kind !== 'number') return { from: 0, to: columnsOf(field).length }
  const numbers = [...among.x, value].filter((x): x is number => typeof x === 'number')
  const [from, to] = [Math.min(...numbers), Math.max(...numbers)]
  return to > from ? { from, to } : { from: from - 0.5, to: to + 0.5 }
}

/** A view half as wide (`closer` above 0) or twice as wide around a place, inside the whole. */
export function zoomed(view: View, whole: View, around: number, closer: boolean): View {
  const width = Math.min(
    whole.to - whole.from,
    Math.max((view.to - view.from) * (closer ? 1 / ZOOM : ZOOM), (whole.to - whole.from) * NARROWEST_SHARE),
  )
  const share = Math.min(1, Math.max(0, (around - view.from) / (view.to - view.from)))
  return inside({ from: around - share * width, to: around + (1 - share) * width }, whole)
}

/** A view a quarter of its width to the side. */
export function moved(view: View, whole: View, side: -1 | 1): View {
  const by = ((view.to - view.from) / 4) * side
  return inside({ from: view.from + by, to: view.to + by }, whole)
}

function inside({ from, to }: View, whole: View): View {
  const width = to - from
  const start = Math.min(Math.max(from, whole.from), whole.to - width)
  return { from: start, to: start + width }
}

/** The columns of a field that is not a number: its options, in their order. */
export function columnsOf(field: Field): { value: InputValue; label: string }[] {
  if (field.kind === 'yes_no') {
    return [
      { value: true, label: 'Yes' },
      { value: false, label: 'No' },
    ]
  }
  return field.kind === 'choice' ? field.options.map((option) => ({ value: option.value as InputValue, label: option.label })) : []
}

/** Where a value stands on the field's own axis; null if it has no place there. */
export function placeOf(field: Field, value: InputValue | undefined): number | null {
  if (field.kind === 'number') return typeof value === 'number' ? value : null
  const column = columnsOf(field).findIndex((one) => one.value === value)
  return column < 0 ? null : column + 0.5
}

/** The reference cases that a view shows. */
export function dotsOf(field: Field, among: Among, view: View): Dot[] {
  const dots: Dot[] = []
  among.x.forEach((value, at) => {
    let place = placeOf(field, value as InputValue)
    if (place === null) return
    // The same little shift for the same case each time: dots must not dance.
    if (field.kind !== 'number') place += (((at * 0.618034) % 1) - 0.5) * COLUMN_SHARE
    if (place < view.from || place > view.to) return
    dots.push({ across: (place - view.from) / (view.to - view.from), y: among.y[at] ?? 0, outcome: among.outcomes?.[at] ?? null })
  })
  return dots
}

/** Of 100 reference cases how many have a lower value; null for what is no number. */
export function lowerOf100(among: Among, value: InputValue | undefined): number | null {
  const numbers = among.x.filter((x): x is number => typeof x === 'number')
  if (typeof value !== 'number' || numbers.length === 0) return null
  return ofHundred(numbers.filter((x) => x < value).length / numbers.length)
}

export interface Stretch {
  words: string
  count: number
  mean: number
}

/** The chart as a table: stretches of equal numbers of cases, or options, with their average answer. */
export function stretchesOf(field: Field, among: Among, numberWords: (value: number) => string): Stretch[] {
  if (field.kind !== 'number') {
    return columnsOf(field).flatMap(({ value, label }) => {
      const answers = among.y.filter((_, at) => among.x[at] === value)
      return answers.length ? [{ words: label, count: answers.length, mean: meanOf(answers) }] : []
    })
  }
  const rows = among.x
    .map((x, at) => ({ x, y: among.y[at] ?? 0 }))
    .filter((row): row is { x: number; y: number } => typeof row.x === 'number')
    .sort((a, b) => a.x - b.x)
  const size = Math.ceil(rows.length / 8)
  const stretches: Stretch[] = []
  for (let start = 0; start < rows.length; start += size) {
    const own = rows.slice(start, start + size)
    stretches.push({
      words: `${numberWords(own[0]?.x ?? 0)} to ${numberWords(own.at(-1)?.x ?? 0)}`,
      count: own.length,
      mean: meanOf(own.map((row) => row.y)),
    })
  }
  return stretches
}

function meanOf(values: number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length
}
