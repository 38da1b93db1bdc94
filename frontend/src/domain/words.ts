/** A text parted by what its words did: pure functions. */
import type { Words } from '../api/client'

export type Word = Words['words'][number]

export interface Piece {
  text: string
  /** Null between words, and for words that hardly matter. */
  word: Word | null
}

/** Of the strongest word's push, what a word must have to be marked. */
const MARKED_SHARE = 0.05

/** The text in pieces, words that matter apart. Places count characters as the server does, not UTF-16 units. */
export function piecesOf(text: string, words: Word[]): Piece[] {
  const strongest = Math.max(...words.map((word) => Math.abs(word.contribution)), 0)
  const marked = words
    .filter((word) => strongest > 0 && Math.abs(word.contribution) >= MARKED_SHARE * strongest)
    .flatMap((word) => word.places.map(([start = 0, end = 0]) => ({ start, end, word })))
    .sort((a, b) => a.start - b.start)
  const characters = [...text]
  const pieces: Piece[] = []
  let at = 0
  for (const { start, end, word } of marked) {
    if (start < at || end > characters.length) continue
    if (start > at) pieces.push({ text: characters.slice(at, start).join(''), word: null })
    pieces.push({ text: characters.slice(start, end).join(''), word })
    at = end
  }
  if (at < characters.length) pieces.push({ text: characters.slice(at).join(''), word: null })
  return pieces
}

/** How strongly a word is marked, from 1 to 3. */
export function strengthOf(word: Word, words: Word[]): 1 | 2 | 3 {
  const strongest = Math.max(...words.map((one) => Math.abs(one.contribution)))
  const share = Math.abs(word.contribution) / (strongest || 1)
  return share > 0.6 ? 3 : share > 0.25 ? 2 : 1
}
