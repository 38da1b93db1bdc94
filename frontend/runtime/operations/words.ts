/** Texts into counts of words or of runs of characters. */
import { emptyBlock, rowOf, type Arrays, type Block, type Columns, type Settings } from '../blocks'
import { need } from '../errors'
import { pythonPattern, SPACE_RUN, SPACES } from '../patterns'
import { columnsIn } from './columns'
import { listIn, type Operations } from './registry'

function countTerms(_: Block[], __: Arrays, settings: Settings, columns: Columns): Block {
  const terms = listIn(settings, 'terms') as string[]
  const places = new Map(terms.map((term, at) => [term, at]))
  const texts = columns[columnsIn(settings)[0]]
  const out = emptyBlock(texts.length, terms.length)
  for (const [row, text] of texts.entries()) {
    const counts = rowOf(out, row)
    for (const term of termsOf(text === null ? '' : String(text), settings)) {
      const place = places.get(term)
      if (place !== undefined) counts[place] = settings.once ? 1 : counts[place] + 1
    }
  }
  return out
}

/** The terms of one text, in order. */
export function termsOf(text: string, settings: Settings): string[] {
  const lowered = settings.lowercase ? text.toLowerCase() : text
  const plain = settings.accents ? withoutAccents(lowered, settings.accents === 'ascii') : lowered
  const [low, high] = settings.lengths as [number, number]
  if (settings.analyzer === 'word') {
    const leftOut = new Set(settings.left_out as string[])
    const words = wordsOf(plain, settings.pattern as string).filter((word) => !leftOut.has(word))
    return runs(words, low, high, ' ')
  }
  const even = plain.replace(SPACES, ' ')
  // Signs, not halves of them.
  if (settings.analyzer === 'char') return runs(Array.from(even), low, high, '')
  const words = even.split(SPACE_RUN).filter((word) => word !== '')
  return words.flatMap((word) => runsInside(Array.from(` ${word} `), low, high))
}

/** All matches; of a pattern with a group what the group holds. */
function wordsOf(text: string, pattern: string): string[] {
  return Array.from(text.matchAll(pythonPattern(pattern)), (found) => (found.length > 1 ? (found[1] ?? '') : found[0]))
}

function runs(items: string[], low: number, high: number, between: string): string[] {
  const found: string[] = []
  for (let length = low; length <= Math.min(high, items.length); length++) {
    for (let start = 0; start + length <= items.length; start++) found.push(items.slice(start, start + length).join(between))
  }
  return found
}

/** Runs of characters of one word; a word shorter than a run counts whole, once. */
function runsInside(word: string[], low: number, high: number): string[] {
  const found: string[] = []
  for (let length = low; length <= high; length++) {
    found.push(word.slice(0, length).join(''))
    for (let start = 1; start + length <= word.length; start++) found.push(word.slice(start, start + length).join(''))
    if (length >= word.length) break
  }
  return found
}

function withoutAccents(text: string, toAscii: boolean): string {
  const parts = Array.from(text.normalize('NFKD'))
  return parts.filter((sign) => (toAscii ? sign < '\x80' : !combines(sign))).join('')
}

/** Whether a sign combines with the one before it: only such signs change places with the last of them in order. */
function combines(sign: string): boolean {
  const last = '\u0345'
  return sign === last || !(last + sign).normalize('NFD').startsWith(last)
}

export const WORDS: Operations = {
  count_terms: {
    width: (widths, _, settings) => {
      need(columnsIn(settings).length === 1 && widths.length === 0, 'one column of text is wanted')
      need(['word', 'char', 'char_wb'].includes(settings.analyzer as string), 'no such analyzer')
      need([null, undefined, 'ascii', 'unicode'].includes(settings.accents as string), 'no such way to treat accents')
      const [low, high] = listIn(settings, 'lengths') as number[]
      need(low >= 1 && low <= high, 'runs of at least one term are wanted')
      pythonPattern(settings.pattern as string)
      const terms = listIn(settings, 'terms')
      need(terms.length > 0 && new Set(terms).size === terms.length, 'each term once')
      need([...terms, ...listIn(settings, 'left_out')].every((term) => typeof term === 'string'), 'terms are text')
      return terms.length
    },
    run: countTerms,
  },
}
