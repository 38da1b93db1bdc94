/** Patterns as Python writes them, for words: letters are those of all scripts, not only of English. */
import { ModelDamaged } from './errors'

/** What Python takes for part of a word, for white space, for a digit. */
const WORD = '\\p{L}\\p{N}_'
const SPACE = '\\t-\\r\\x1c-\\x20\\x85\\xa0\\u1680\\u2000-\\u200a\\u2028\\u2029\\u202f\\u205f\\u3000'
const BOUNDARY = `(?:(?<![${WORD}])(?=[${WORD}])|(?<=[${WORD}])(?![${WORD}]))`
const NO_BOUNDARY = `(?:(?<![${WORD}])(?![${WORD}])|(?<=[${WORD}])(?=[${WORD}]))`
const OUTSIDE: Record<string, string> = {
  w: `[${WORD}]`, W: `[^${WORD}]`, s: `[${SPACE}]`, S: `[^${SPACE}]`, d: '\\p{Nd}', D: '\\P{Nd}', b: BOUNDARY, B: NO_BOUNDARY, A: '^', Z: '$',
}
const INSIDE: Record<string, string> = { w: WORD, s: SPACE, d: '\\p{Nd}' }
/** Of a class that says all signs but some, those. */
const ALL_BUT: Record<string, string> = { W: WORD, S: SPACE, D: '\\p{Nd}' }
/** Signs that may stand behind a backslash where letters are those of all scripts; others stand for themselves. */
const ESCAPED = /[\^$\\.*+?()[\]{}|/-]/

export const SPACES = new RegExp(`[${SPACE}]{2,}`, 'gu')
export const SPACE_RUN = new RegExp(`[${SPACE}]+`, 'gu')

/** The same pattern as this language writes it. */
export function pythonPattern(pattern: string): RegExp {
  let flags = 'gu'
  const rest = pattern.replace(/^\(\?([aiLmsux]+)\)/, (_, own: string) => {
    if (/[aLx]/.test(own)) throw new ModelDamaged(`the pattern ${pattern} asks for more than is read here`)
    flags += own.replace('u', '')
    return ''
  })
  try {
    return new RegExp(translated(rest), flags)
  } catch {
    throw new ModelDamaged(`the pattern ${pattern} asks for more than is read here`)
  }
}

function translated(pattern: string): string {
  let out = ''
  for (let at = 0; at < pattern.length; at++) {
    const sign = pattern[at]
    if (sign === '\\') {
      at += 1
      out += OUTSIDE[pattern[at]] ?? escaped(pattern[at] ?? '')
    } else if (sign === '[') {
      const end = endOfClass(pattern, at)
      out += classOf(pattern.slice(at + 1, end))
      at = end
    } else if (pattern.startsWith('(?P<', at)) {
      out += '(?<'
      at += 3
    } else out += sign
  }
  return out
}

/** Where a class of signs closes: a bracket that is its first sign is one of them. */
function endOfClass(pattern: string, from: number): number {
  let at = pattern[from + 1] === '^' ? from + 3 : from + 2
  while (at < pattern.length && pattern[at] !== ']') at += pattern[at] === '\\' ? 2 : 1
  return at
}

/** A class of signs; what is said by all signs but some is taken out of it, since it cannot stand inside. */
function classOf(written: string): string {
  const isNegated = written.startsWith('^')
  let content = ''
  const allBut: string[] = []
  for (let at = isNegated ? 1 : 0; at < written.length; at++) {
    const sign = written[at]
    if (sign === '\\') {
      at += 1
      const but = ALL_BUT[written[at]]
      if (but === undefined) content += INSIDE[written[at]] ?? escaped(written[at] ?? '')
      else allBut.push(but)
    } else content += /[[\]{}()|/]/.test(sign) ? `\\${sign}` : sign
  }
  if (allBut.length === 0) return `[${isNegated ? '^' : ''}${content}]`
  if (!isNegated) return `(?:${[...(content ? [`[${content}]`] : []), ...allBut.map((but) => `[^${but}]`)].join('|')})`
  // None of the content, and none of all signs but some: one of those.
  return `(?:${content && `(?![${content}])`}${allBut.slice(1).map((but) => `(?=[${but}])`).join('')}[${allBut[0]}])`
}

function escaped(sign: string): string {
  return /[a-zA-Z0-9]/.test(sign) || ESCAPED.test(sign) ? `\\${sign}` : sign
}
