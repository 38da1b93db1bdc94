/** A tour of a table: what was found in it, one thing after another, with why it matters. Pure. */
import type { Sheet, StarterFinding } from '../../api/client'
import { plainText } from '../../parts/table/tableWords'
import { groupedText } from '../../domain/format'

export interface TourStep {
  title: string
  columns: readonly string[]
  sentence: string
  why: string
}

const WHY: Partial<Record<StarterFinding['kind'], { title: string; why: string }>> = {
  'gives-away': { title: 'A leak', why: 'A model that is told it looks perfect here, and is of no use where it is not known yet.' },
  'known-afterwards': { title: 'A leak', why: 'A model that is told it looks perfect here, and is of no use to somebody who asks beforehand: for them it is always empty.' },
  'adds-up': { title: 'A leak', why: 'Whoever knows these can add; there is nothing left to predict.' },
  identifier: { title: 'A name', why: 'A model may learn names by heart, and has learned nothing for rows that come next.' },
  group: { title: 'Groups', why: 'Were some rows of a thing learned from and others tried on, it would be tried on what it nearly knows.' },
  time: { title: 'A date, and time that goes on', why: 'A page is asked about cases to come. A model that was tried on earlier ones only says how it would have done then.' },
  duplicates: { title: 'Rows met twice', why: 'A row that is learned from and tried on is no trial.' },
  spellings: { title: 'Spellings', why: 'To a model two spellings are two different things.' },
  'stand-in': { title: 'A stand-in', why: 'Taken for a number it would pull all others along.' },
}

/** The steps, in the order in which they matter: leaks first, then what only looks like knowledge, then what is missing. */
export function tourSteps(sheet: Sheet): TourStep[] {
  const found = sheet.findings.flatMap((finding) => {
    const known = WHY[finding.kind]
    return known ? [{ title: known.title, columns: finding.columns, sentence: plainText(finding.sentence), why: known.why }] : []
  })
  return [...found, ...datesOf(sheet), ...gapsOf(sheet)]
}

function datesOf(sheet: Sheet): TourStep[] {
  return sheet.columns
    .filter(({ kind, parts = [] }) => kind === 'date' && parts.length > 0)
    .map(({ name, parts = [] }) => ({
      title: 'What becomes of a date',
      columns: [name],
      sentence: `“${name}” is told to the model as its ${parts.map((part) => ({ month: 'month', weekday: 'day of the week', hour: 'hour' })[part]).join(' and its ')}.`,
      why: 'Those come again. A year does not: it is told only where the table spans two years or more and what happens changes with them.',
    }))
}

function gapsOf(sheet: Sheet): TourStep[] {
  const gapped = sheet.columns.filter(({ n_gaps, name, kind }) => n_gaps > 0 && kind !== 'empty' && name !== sheet.target && !isLeak(name, sheet))
  if (gapped.length === 0) return []
  const listed = gapped.slice(0, 4).map(({ name, n_gaps }) => `“${name}” ${groupedText(n_gaps)}`)
  return [
    {
      title: 'Gaps',
      columns: gapped.map(({ name }) => name),
      sentence: `Values are missing: of ${listed.join(', of ')}.`,
      why: 'They stay gaps. Visitors may leave those fields unknown, and the model fills in the middle value, or goes its own way for them.',
    },
  ]
}

function isLeak(name: string, sheet: Sheet): boolean {
  return sheet.findings.some(({ kind, columns }) => (kind === 'gives-away' || kind === 'known-afterwards') && columns.includes(name))
}
