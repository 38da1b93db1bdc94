/**
 * Which words of a text brought an output about: Shapley values of the game in which a word, all its occurrences together,
 * is in the text or not (Štrumbelj and Kononenko 2010, section 3).
 */
import { shapleyOfCoalitions } from './coalitions'
import { sampleOrders, seedOf } from './orders'

export interface WordShare {
  word: string
  /** Where it stands: start and end of each occurrence, counted in characters. */
  places: [number, number][]
  contribution: number
  /** How far the contribution may be off (one standard error). */
  error: number
  /** By how much the output falls when this word alone is left out. */
  left_out: number
}

export interface TextExplanation {
  method: 'exact-enumeration' | 'sampled'
  /** The output for no words at all. */
  baseline: number
  /** The strongest first. */
  words: WordShare[]
}

const MOST_ENUMERATED = 9
const MOST_PLAYERS = 250
/** A standard error too small to be seen, of how far the words brought the output at the most. */
const SMALL_ERROR = 0.01
const MOST_ROWS = 1300
const MOST_TIME = 600
/** Signs that are words by themselves: Chinese, Japanese, little pictures. */
const ALONE = '\\u3040-\\u30ff\\u3400-\\u9fff\\u{1f300}-\\u{1faff}'
const LETTER = '\\p{L}\\p{N}'
const WORD = new RegExp(`[${ALONE}]|(?:(?![${ALONE}])[${LETTER}_])+(?:['’][${LETTER}]+)*`, 'gu')

/** The words of a text with the places where they stand; of very many, several are one player. */
export function wordsOf(text: string): Map<string, [number, number][]> {
  const words = new Map<string, [number, number][]>()
  // Places count characters, where this language counts halves of some.
  let [counted, upTo] = [0, 0]
  for (const found of text.matchAll(WORD)) {
    counted += charactersIn(text.slice(upTo, found.index))
    const start = counted
    counted += charactersIn(found[0])
    upTo = found.index + found[0].length
    const name = folded(found[0])
    words.set(name, [...(words.get(name) ?? []), [start, counted]])
  }
  if (words.size <= MOST_PLAYERS) return words
  const atOnce = Math.ceil(words.size / MOST_PLAYERS)
  const names = [...words.keys()]
  const groups = Array.from({ length: Math.ceil(names.length / atOnce) }, (_, at) => names.slice(at * atOnce, (at + 1) * atOnce))
  return new Map(groups.map((group) => [group.join(' '), group.flatMap((name) => words.get(name) ?? []).sort((a, b) => a[0] - b[0])]))
}

/** Characters, not halves of some. */
function charactersIn(text: string): number {
  return Array.from(text).length
}

/** Without the difference of upper and lower case. */
export function folded(text: string): string {
  return text.toLowerCase().replaceAll('ß', 'ss').replaceAll('ς', 'σ')
}

/** Contributions of the words of a text; `ask` says the output for each of some texts. */
export function explainText(ask: (texts: string[]) => Float64Array, text: string, now: () => number): TextExplanation {
  const found = wordsOf(text)
  const n = found.size
  const characters = [...text]
  const places = [...found.values()]
  const asked = (takes: Uint8Array[]) => ask(takes.map((taken) => written(characters, places, taken)))
  const one = (at: number, value: number) => new Uint8Array(n).fill(1 - value).fill(value, at, at + 1)
  const [all, none] = [new Uint8Array(n).fill(1), new Uint8Array(n)]
  const outputs = asked([all, none, ...places.map((_, at) => one(at, 0)), ...places.map((_, at) => one(at, 1))])
  const [whole, baseline] = outputs
  const leftOut = outputs.subarray(2, 2 + n)
  // Words that change nothing, left out or alone, are no players.
  const players = [...places.keys()].filter((at) => leftOut[at] !== whole || outputs[2 + n + at] !== baseline)
  const range = Math.max(...outputs) - Math.min(...outputs)
  const some = contributionsOf(asked, players, { n, text, smallError: SMALL_ERROR * range, now })
  const words = [...found].map(([word, own], at): WordShare => {
    const player = players.indexOf(at)
    return { word, places: own, contribution: some.contributions[player] ?? 0, error: some.errors[player] ?? 0, left_out: whole - leftOut[at] }
  })
  words.sort((a, b) => Math.abs(b.contribution) - Math.abs(a.contribution))
  return { method: some.method, baseline, words }
}

interface Game {
  n: number
  text: string
  smallError: number
  now: () => number
}

function contributionsOf(asked: (takes: Uint8Array[]) => Float64Array, players: number[], { n, text, smallError, now }: Game) {
  const askPlayers = (takes: Uint8Array[]) =>
    asked(
      takes.map((taken) => {
        const every = new Uint8Array(n).fill(1)
        for (const [at, player] of players.entries()) every[player] = taken[at]
        return every
      }),
    )
  if (players.length <= MOST_ENUMERATED) {
    const coalitions = Array.from({ length: 1 << players.length }, (_, bits) => Uint8Array.from(players, (_, at) => (bits >> at) & 1))
    const contributions = players.length === 0 ? new Float64Array(0) : shapleyOfCoalitions(askPlayers(coalitions), players.length)
    return { method: 'exact-enumeration' as const, contributions, errors: new Float64Array(players.length) }
  }
  const mostPairs = Math.max(2, Math.floor(MOST_ROWS / (2 * (players.length + 1))))
  const options = { nPlayers: players.length, nRows: 1, seed: seedOf(text), most: MOST_TIME, mostPairs, smallError, now }
  return { method: 'sampled' as const, ...sampleOrders((takes) => askPlayers(takes), { ...options, total: null }) }
}

/** The text with some words blank: what stood on either side does not run together. */
function written(characters: string[], places: [number, number][][], taken: Uint8Array): string {
  const gone = places.filter((_, at) => !taken[at]).flat().sort((a, b) => a[0] - b[0])
  let [text, at] = ['', 0]
  for (const [start, end] of gone) {
    text += `${characters.slice(at, start).join('')} `
    at = end
  }
  return text + characters.slice(at).join('')
}
