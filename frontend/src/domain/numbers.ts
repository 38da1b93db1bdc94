/** Numbers as people type them, read by the browser's language: pure functions. */

/** What groups digits in a language, and what stands before the decimals. */
export interface Signs {
  group: string
  decimal: string
}

/** As this page itself writes numbers. */
const PLAIN: Signs = { group: ',', decimal: '.' }

export function signsOf(language: string | undefined): Signs {
  const parts = new Intl.NumberFormat(language).formatToParts(1234567.5)
  const find = (type: string) => parts.find((part) => part.type === type)?.value
  return { group: find('group') ?? ',', decimal: find('decimal') ?? '.' }
}

const SPACES = /[\s\u00a0\u202f\u2009'’]/g
const GROUPED = { ',': /^\d{1,3}(,\d{3})+$/, '.': /^\d{1,3}(\.\d{3})+$/ } as const

/**
 * The number that a text is, by a language's signs; null if it is none.
 *
 * "1,240" is 1240 where a comma groups, and 1.24 where it stands before decimals; "7,6" can only be 7.6.
 */
export function parseNumber(text: string, signs: Signs = PLAIN): number | null {
  const digits = bare(text)
  if (digits === null) return null
  const [comma, point] = [digits.includes(','), digits.includes('.')]
  if (comma && point) return whole(digits, digits.lastIndexOf(',') > digits.lastIndexOf('.') ? ',' : '.')
  if (!comma && !point) return finite(digits)
  const sign = comma ? ',' : '.'
  const isDecimal = digits.split(sign).length === 2 && (signs.decimal === sign || !GROUPED[sign].test(digits.replace(/^[+-]/, '')) || digits.replace(/^[+-]/, '').startsWith('0'))
  return isDecimal ? whole(digits, sign) : whole(digits, sign === ',' ? '.' : ',')
}

/** Both numbers that a text could be, the larger first; null where it has one reading. */
export function readings(text: string): [number, number] | null {
  const digits = bare(text)?.replace(/^[+-]/, '') ?? ''
  const sign = digits.includes(',') ? ',' : '.'
  if (digits.startsWith('0') || digits.split(sign).length !== 2 || !GROUPED[sign].test(digits)) return null
  const both = [parseNumber(text, PLAIN), parseNumber(text, { group: '.', decimal: ',' })] as [number, number]
  return Math.abs(both[0]) > Math.abs(both[1]) ? both : [both[1], both[0]]
}

/** A number as the same language writes it, without grouping: what is put into a field must read back as it was meant. */
export function entryText(value: number, signs: Signs): string {
  const text = String(Number(value.toPrecision(12)))
  return signs.decimal === '.' ? text : text.replace('.', signs.decimal)
}

/** Without spaces, grouping apostrophes and typographic signs; null for what is no number by its letters. */
function bare(text: string): string | null {
  const plain = text.trim().replace('−', '-').replace('–', '-')
  const digits = plain.replace(SPACES, '')
  if (digits !== plain && !/^[+-]?\d{1,3}([\s\u00a0\u202f\u2009'’]\d{3})+(?!\d)/.test(plain) && /\d[\s\u00a0\u202f\u2009'’]+\d/.test(plain)) return null
  return /^[+-]?[\d.,]*\d[\d.,]*(e[+-]?\d+)?$/i.test(digits) ? digits : null
}

/** The number, with this sign before its decimals and the other one grouping. */
function whole(digits: string, decimal: ',' | '.'): number | null {
  const group = decimal === ',' ? '.' : ','
  const [front = '', ...rest] = digits.split(decimal)
  if (rest.length > 1 || rest[0]?.includes(group)) return null
  if (front.includes(group) && !GROUPED[group].test(front.replace(/^[+-]/, ''))) return null
  return finite(`${front.replaceAll(group, '')}${rest.length ? `.${rest[0]}` : ''}`)
}

function finite(text: string): number | null {
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(text)) return null
  const value = Number(text)
  return Number.isFinite(value) ? value : null
}
