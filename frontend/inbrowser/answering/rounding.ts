/** Numbers as the server writes them: the same digits, rounded the same way. */

const MOST_DIGITS = 100

/** A number with so many decimals; of two that are as near, the even one. */
export function fixed(value: number, decimals: number): string {
  if (Math.abs(value) >= 1e21) return `${BigInt(value)}${decimals ? `.${'0'.repeat(decimals)}` : ''}`
  const text = value.toFixed(decimals)
  // A number of a double's digits that lies half way shows it within these many more.
  const exact = value.toFixed(Math.min(MOST_DIGITS, decimals + 60))
  const rest = exact.slice(exact.indexOf('.') + 1 + decimals)
  if (!/^50*$/.test(rest)) return text
  const cut = exact.slice(0, exact.indexOf('.') + 1 + decimals).replace(/\.$/, '')
  return Number(cut.at(-1)) % 2 === 0 ? cut : text
}

/** A number rounded to so many decimals, as a number. */
export function rounded(value: number, decimals: number): number {
  return Number.isFinite(value) ? Number(fixed(value, decimals)) : value
}

/** With so many digits that count, without zeros behind them; small and large ones with a power of ten. */
export function significant(value: number, digits: number): string {
  if (!Number.isFinite(value)) return Number.isNaN(value) ? 'nan' : value > 0 ? 'inf' : '-inf'
  if (value === 0) return Object.is(value, -0) ? '-0' : '0'
  const power = Number(evenExponential(value, digits - 1).split('e')[1])
  if (power >= -4 && power < digits) return bare(fixed(value, digits - 1 - power))
  const [number, at] = evenExponential(value, digits - 1).split('e')
  return `${bare(number)}e${Number(at) < 0 ? '-' : '+'}${String(Math.abs(Number(at))).padStart(2, '0')}`
}

function evenExponential(value: number, decimals: number): string {
  const text = value.toExponential(decimals)
  const exact = value.toExponential(Math.min(MOST_DIGITS, decimals + 60))
  const [number, power] = exact.split('e')
  const [cut, rest] = [number.slice(0, number.indexOf('.') + 1 + decimals), number.slice(number.indexOf('.') + 1 + decimals)]
  return /^50*$/.test(rest) && Number(cut.at(-1)) % 2 === 0 ? `${cut}e${power}` : text
}

function bare(text: string): string {
  return text.includes('.') ? text.replace(/0+$/, '').replace(/\.$/, '') : text
}

/** A sum without rounding on the way (Shewchuk 1997, "Adaptive Precision Floating-Point Arithmetic", algorithm 4). */
export function exactSum(values: readonly number[]): number {
  const partials: number[] = []
  for (const value of values) {
    let x = value
    let kept = 0
    for (const partial of partials) {
      const [large, small] = Math.abs(x) < Math.abs(partial) ? [partial, x] : [x, partial]
      const high = large + small
      const low = small - (high - large)
      if (low !== 0) partials[kept++] = low
      x = high
    }
    partials.length = kept
    partials.push(x)
  }
  return partials.reduceRight((total, partial) => total + partial, 0)
}

/** Whole marks out of 100, by largest remainder: they always add up to 100. */
export function share100(probabilities: readonly number[]): number[] {
  const total = exactSum(probabilities)
  const exact = probabilities.map((probability) => (100 * probability) / total)
  const marks = exact.map(Math.floor)
  const left = 100 - marks.reduce((sum, mark) => sum + mark, 0)
  const byRemainder = exact.map((_, at) => at).sort((a, b) => marks[a] - exact[a] - (marks[b] - exact[b]))
  for (const at of byRemainder.slice(0, left)) marks[at] += 1
  return marks
}

/** A share of its own as whole marks of 100: half a mark up. */
export function of100(share: number): number {
  return Math.floor(rounded(100 * share, 10) + 0.5)
}

/** A number rounded for reading, thousands set apart by a narrow space. */
export function numberWords(value: number, decimals: number): string {
  const text = fixed(Math.abs(value), decimals)
  const [whole, rest] = text.split('.')
  const spaced = whole.replace(/\B(?=(\d{3})+$)/g, '\u202f')
  const sign = (value < 0 || Object.is(value, -0)) && Number(text) !== 0 ? '−' : ''
  return sign + (rest === undefined ? spaced : `${spaced}.${rest}`)
}

const LARGEST_ROUNDED = 2 ** 52 / 1e10

/** How far off an answer may be, rounded up: a bound must not promise too much. */
export function marginWords(margin: number, decimals: number): string {
  if (margin >= LARGEST_ROUNDED) return numberWords(margin, decimals)
  const steps = Math.max(1, Math.ceil(margin * 10 ** decimals - 1e-9))
  return numberWords(steps / 10 ** decimals, decimals)
}

/** A number as a person would write it. */
export function numberText(value: number): string {
  return Number.isInteger(value) && Math.abs(value) < 1e15 ? String(value === 0 ? 0 : value) : significant(value, 6)
}
