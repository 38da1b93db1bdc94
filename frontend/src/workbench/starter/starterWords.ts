/** What is said of a table's columns, and of work on it. Pure. */
import type { JobView, StarterChanges, StarterColumn, StarterLook } from '../../api/client'
import { groupedText, numberText } from '../../domain/format'
import { durationText } from '../../parts/table/tableWords'

export const KIND_WORDS: Record<StarterColumn['kind'], string> = {
  number: 'number',
  category: 'category',
  yes_no: 'yes/no',
  date: 'date',
  text: 'text',
  identifier: 'name of a row',
  constant: 'always the same',
  empty: 'empty',
}

const VALUES_SAID = 3

/** What a column's values go over, in a few words. */
export function valuesText(column: StarterColumn): string {
  const { kind, low, high, common = [], n_distinct } = column
  if (kind === 'date' && low !== null && high !== null && low !== undefined && high !== undefined) return `${dayText(low)} to ${dayText(high)}`
  if ((kind === 'number' || kind === 'identifier') && low !== null && high !== null && low !== undefined && high !== undefined) return `${numberText(low)} to ${numberText(high)}`
  if (kind === 'category' || kind === 'yes_no') {
    const said = common.slice(0, VALUES_SAID).map(({ value }) => value)
    const more = n_distinct - said.length
    return more > 0 ? `${said.join(', ')} and ${groupedText(more)} more` : said.join(', ')
  }
  return column.examples.slice(0, 2).join(', ')
}

export function dayText(seconds: number): string {
  return new Date(seconds * 1000).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
}

/** Whether rows stay together by it, or are parted by it: then it is told to no model by that. */
export function roleOf(name: string, { sheet, choices, used }: StarterLook): string {
  if (name === sheet.target) return 'to be predicted'
  if (name === groupOf({ sheet, choices })) return 'keeps rows together'
  return used.includes(name) ? '' : 'left out'
}

export function groupOf({ sheet, choices }: Pick<StarterLook, 'sheet' | 'choices'>): string {
  return choices.group ?? sheet.group ?? ''
}

export function timeOf({ sheet, choices }: Pick<StarterLook, 'sheet' | 'choices'>): string {
  return choices.time ?? sheet.time ?? ''
}

/** How it will look with these changes, as far as that can be told before the server has looked. */
export function foreseen(look: StarterLook, changes: StarterChanges): StarterLook {
  const given = Object.fromEntries(Object.entries(changes).filter(([, value]) => value !== undefined && value !== null))
  const choices = { ...look.choices, ...given } as StarterLook['choices']
  const isUsed = (name: string) => (look.used.includes(name) || (choices.keep ?? []).includes(name)) && !(choices.drop ?? []).includes(name)
  return { ...look, choices, used: look.sheet.columns.map(({ name }) => name).filter((name) => name !== look.sheet.target && isUsed(name)) }
}

export function isDropped({ sheet, choices }: StarterLook): boolean {
  return choices.duplicates ? choices.duplicates === 'drop' : (sheet.drops_duplicates ?? false)
}

/** How rows were parted, and how many of them did what. */
export function triedText(look: StarterLook): string {
  const { compared } = look
  if (!compared) return ''
  const some = compared.n_rows < compared.n_of ? `${groupedText(compared.n_rows)} of ${groupedText(compared.n_of)} rows, drawn at random, ` : `${groupedText(compared.n_rows)} rows `
  const tried = compared.n_tried < compared.n_rows ? `, of which ${groupedText(compared.n_tried)} were asked about` : ''
  const how = {
    chance: `Each was asked about by models that had not seen it${compared.n_repeats > 1 ? `, ${compared.n_repeats} times over` : ''}.`,
    group: `Each was asked about by models that had seen no row of the same “${groupOf(look)}”${compared.n_repeats > 1 ? `, ${compared.n_repeats} times over` : ''}.`,
    time: 'Each was asked about by models that had seen only earlier ones.',
  }[compared.parted_by]
  return `${some}were learned from and tried on${tried}. ${how} ${groupedText(compared.n_kept_back)} more are kept back: no model sees them before the page is made, and its report is about them.`
}

/** How far it is, in a sentence. */
export function farText({ state, place, done, total, seconds_left, detail }: JobView): string {
  if (state === 'waiting') return place > 0 ? `${place === 1 ? 'One other' : place} before it. It begins by itself.` : 'It begins in a moment.'
  if (state === 'cancelled') return 'Cancelled. Nothing is kept of it.'
  if (state === 'failed') return detail
  if (!total || done === 0) return 'Begun.'
  if (done >= total - 1) return 'Fitting the chosen model, and opening it…'
  const left = seconds_left === null ? '' : ` About ${durationText(seconds_left)} left.`
  return `${groupedText(done)} of ${groupedText(total - 1)} fits done.${left}`
}
