/** Where the model looked in a picture, or which strokes of a drawing counted: in words and marks, and as a table. */
import type { Answer, Page } from '../../api/client'
import type { Where } from '../../api/picture'
import { amountOfAMark, Tally } from '../../parts/Tally'
import { shownWhere } from '../../domain/adding'
import { frostWords } from './frost'
import { SIGNS } from '../fields/PushWords'
import { largestError } from '../../domain/regions'
import { answerWords, nameOf, pushOf, scaleOf, type Push, type Scale } from '../../domain/why'
import { Framed } from '../../parts/Framed'

export interface WhereLookedProps {
  page: Page
  answer: Answer
  where: Where
}

const PARTS_SHOWN = 9
/** As many as two lines hold beside the words: rows must not grow while the figures get sharper. */
const MOST_MARKS = 30

export function WhereLooked({ page, answer, where }: WhereLookedProps) {
  const scale = scaleOf(page.answer, where.of, answer)
  const field = page.fields.find((one) => one.name === where.field)
  const isStrokes = where.parts === 'strokes'
  const shown = shownWhere(where, scale)
  const parts = isStrokes ? shown.contributions : shown.regions.map((region) => region.contribution)
  const amount = scale.factor === 100 ? amountOfAMark(100 * Math.max(...parts.map(Math.abs)), MOST_MARKS, 1) : null
  return (
    <section className="card-line mt-6 pt-4" aria-labelledby={`where-${where.field}`} data-testid="where">
      <h3 id={`where-${where.field}`} className="font-bold">
        {isStrokes ? 'Which strokes counted' : 'Where it looked'}
        {page.fields.length > 1 && field ? `: ${field.label}` : ''}
      </h3>
      <p className="min-h-[4.5em] text-[0.92em] text-soft">
        For “{nameOf(page.answer, where.of)}”: from {answerWords(shown.covered, scale)} {isStrokes ? 'with nothing drawn' : 'with all of it covered'} to{' '}
        {answerWords(shown.whole, scale)}.{amount !== null && ` One mark is ${amount === 1 ? 'one' : amount} of 100.`}
        {!isStrokes && <span className="hidden print:inline"> {frostWords(nameOf(page.answer, where.of))}</span>}
      </p>
      <PartsList where={shown} scale={scale} amount={amount ?? 1} />
      <p className="mt-2 text-[0.85em] text-soft" role="status">
        {howSure(where, scale)}
      </p>
      {!isStrokes && <PatchTable where={where} scale={scale} />}
    </section>
  )
}

/** A picture's ninths as one reads them: their places stay while the figures get sharper. */
const PLACES = ['upper left', 'upper middle', 'upper right', 'middle left', 'centre', 'middle right', 'lower left', 'lower middle', 'lower right']

/** The ninths of a picture, or the strongest strokes, in their order; in words and marks. */
function PartsList({ where, scale, amount }: { where: Where; scale: Scale; amount: number }) {
  const isEstimate = where.method === 'sampled'
  const parts = where.parts === 'patches' ? ninthsOf(where) : strokesOf(where)
  const shown = parts.slice(0, PARTS_SHOWN)
  const rest = parts.slice(PARTS_SHOWN)
  const together = rest.reduce((sum, part) => sum + part.contribution, 0)
  return (
    <>
      <ul className="mt-2 text-[0.94em]" aria-label={where.parts === 'patches' ? 'Parts of the picture' : 'Strokes'}>
        {shown.map((part) => {
          const push = pushOf(part.contribution, scale, isEstimate)
          const colour = { up: 'text-raise', down: 'text-lower', none: 'text-soft' }[push.direction]
          return (
            <li key={part.words} className={`grid min-h-8 grid-cols-[7em_minmax(0,1fr)_auto] items-start gap-x-3 py-0.5 ${colour}`}>
              <span className="text-ink">{part.words}</span>
              <span className="pt-1.5">
                {scale.factor === 100 ? (
                  <Tally count={Math.round((Math.abs(part.contribution) * 100) / amount)} shape={part.contribution > 0 ? 'up' : 'down'} isFine />
                ) : (
                  <span aria-hidden="true">{SIGNS[push.direction]}</span>
                )}
              </span>
              <span className="min-w-[7em] whitespace-nowrap">{scale.factor === 100 ? inShort(push) : push.words}</span>
            </li>
          )
        })}
      </ul>
      {rest.length > 0 && (
        <p className="mt-1 flex justify-between gap-3 text-[0.9em] text-soft">
          <span>{rest.length === 1 ? rest[0]?.words : `and ${rest.length} others, together`}</span>
          <span>{pushOf(together, scale).words}</span>
        </p>
      )}
    </>
  )
}

/** "adds 13", "takes off 4": the marks beside it say of what. */
function inShort({ direction, short, words }: Push): string {
  return direction === 'none' ? words : `${direction === 'up' ? 'adds' : 'takes off'} ${short.replace(/^[+−]/, '')}`
}

function ninthsOf(where: Where): { words: string; contribution: number }[] {
  return [...where.regions].sort((one, other) => PLACES.indexOf(one.words) - PLACES.indexOf(other.words))
}

/** The strongest first among all, but those that are shown in the order in which they were drawn: they must not change
 * places while the figures get sharper. */
function strokesOf(where: Where): { words: string; contribution: number }[] {
  const strokes = where.contributions.map((contribution, at) => ({ at, words: `stroke ${at + 1}`, contribution }))
  const byStrength = [...strokes].sort((one, other) => Math.abs(other.contribution) - Math.abs(one.contribution))
  const shown = byStrength.slice(0, PARTS_SHOWN).sort((one, other) => one.at - other.at)
  return [...shown, ...byStrength.slice(PARTS_SHOWN)]
}

function howSure(where: Where, scale: Scale): string {
  if (where.method === 'exact-enumeration') return 'Exact: every combination was tried.'
  const error = largestError(where)
  if (error === null) return 'A first sketch: each part covered by itself. It gets sharper.'
  const within = Math.max(1, Math.round(1.96 * error * scale.factor * 10 ** scale.decimals) / 10 ** scale.decimals)
  const so = where.is_done ? '' : ' so far'
  return `From ${where.n_asked} partly covered pictures${so}; each of these is right within about ±${within} ${scale.unit}.`
}

function PatchTable({ where, scale }: { where: Where; scale: Scale }) {
  const rows = Array.from({ length: where.n_rows }, (_, row) => where.contributions.slice(row * where.n_columns, (row + 1) * where.n_columns))
  return (
    <details className="mt-2 text-[0.92em]">
      <summary className="button-quiet w-fit">Read every patch as a table</summary>
      <Framed label="Every patch">
        <table className="mt-2 text-right text-[0.85em]">
          <caption className="text-left text-soft">In {scale.unit || 'the answer’s unit'}, as the patches lie in the picture; each rounded by itself</caption>
          <tbody>
            {rows.map((row, at) => (
              <tr key={at}>
                {row.map((contribution, column) => (
                  <td key={column} className="border border-line px-1.5 py-0.5">
                    {pushOf(contribution, scale).short}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Framed>
    </details>
  )
}
