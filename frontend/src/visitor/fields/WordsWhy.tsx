/** Which words brought the answer about: in the text itself with ▲▼, and as a table. */
import type { Words } from '../../api/client'
import { answerWords, pushOf, type FieldWhy, type Scale } from '../../domain/why'
import { piecesOf, strengthOf } from '../../domain/words'
import { Framed } from '../../parts/Framed'

const LINES = { 1: 'border-b', 2: 'border-b-2', 3: 'border-b-4 font-bold' }
const TABLE_ROWS = 20

export interface WordsWhyProps {
  text: string
  why: FieldWhy
  words: Words
}

export function WordsWhy({ text, why, words }: WordsWhyProps) {
  const strongest = words.words.slice(0, TABLE_ROWS)
  return (
    <div className="mt-3" data-testid="words">
      <p className="text-[0.85em] text-soft">
        What the words did, for “{why.of}”: from {answerWords(words.baseline, why.scale)} with no words at all.
      </p>
      <p className="mt-1 leading-8 break-words whitespace-pre-wrap">
        {piecesOf(text, words.words).map((piece, at) =>
          piece.word ? (
            <span
              key={at}
              className={`${LINES[strengthOf(piece.word, words.words)]} ${piece.word.contribution > 0 ? 'border-raise' : 'border-lower'}`}
              title={pushOf(piece.word.contribution, why.scale, piece.word.error > 0).words}
            >
              {piece.text}
              <span className={`text-[0.7em] ${piece.word.contribution > 0 ? 'text-raise' : 'text-lower'}`} aria-hidden="true">
                {piece.word.contribution > 0 ? '▲' : '▼'}
              </span>
            </span>
          ) : (
            piece.text
          ),
        )}
      </p>
      <details className="mt-1 text-[0.92em]">
        <summary className="button-quiet w-fit">Read the words as a table</summary>
        <Framed label="The words, as a table">
        <table className="mt-2 w-full text-left">
          <thead>
            <tr className="text-soft">
              <th className="py-1 font-normal">Word</th>
              <th className="py-1 text-right font-normal">What it does</th>
              <th className="py-1 text-right font-normal">If it alone were left out</th>
            </tr>
          </thead>
          <tbody>
            {strongest.map((word) => (
              <tr key={word.word} className="border-t border-line">
                <td className="py-1">{word.word}</td>
                <td className="py-1 text-right">{pushOf(word.contribution, why.scale, word.error > 0).words}</td>
                <td className="py-1 text-right text-soft">{leftOutWords(word.left_out, why.scale)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        </Framed>
        <p className="mt-1 text-soft">What a word does is counted together with the words around it; leaving out that one word may do less, or more.</p>
        {words.words.length > strongest.length && (
          <p className="mt-1 text-soft">and {words.words.length - strongest.length} more words, each of less weight</p>
        )}
      </details>
    </div>
  )
}

/** "17 points lower", from what the answer falls by. */
function leftOutWords(fall: number, scale: Scale): string {
  const push = pushOf(fall, scale)
  if (push.direction === 'none') return 'the same'
  return `${push.short.replace(/^[+−]/, '')} ${push.direction === 'up' ? 'lower' : 'higher'}`
}
