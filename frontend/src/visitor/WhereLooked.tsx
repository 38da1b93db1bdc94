/** Where the model looked in a picture, or which strokes of a drawing it took: over the picture, and in words. */
import { useState } from 'react'
import type { Answer, Inputs, Page } from '../api/client'
import { isPicture, type Stroke, type Where } from '../api/picture'
import { COLOURS, SIGNS } from './PushWords'
import { largestError, strengths } from './where'
import { answerWords, nameOf, pushOf, scaleOf, type Scale } from './why'

export interface WhereLookedProps {
  page: Page
  answer: Answer
  inputs: Inputs
  where: Where
  /** The picture as the model sees it. */
  seen: string | undefined
}

const USUAL_STRENGTH = 70
/** Parts this strong beside the strongest carry a sign of their own. */
const MARKED = 0.5

export function WhereLooked({ page, answer, inputs, where, seen }: WhereLookedProps) {
  const [strength, setStrength] = useState(USUAL_STRENGTH)
  const scale = scaleOf(page.answer, where.of, answer)
  const field = page.fields.find((one) => one.name === where.field)
  const value = inputs[where.field]
  const isStrokes = where.parts === 'strokes'
  return (
    <section className="card-line mt-6 pt-4" aria-labelledby={`where-${where.field}`} data-testid="where">
      <h3 id={`where-${where.field}`} className="font-bold">
        {isStrokes ? 'Which strokes counted' : 'Where it looked'}
        {page.fields.length > 1 && field ? `: ${field.label}` : ''}
      </h3>
      <p className="text-[0.92em] text-soft">
        For “{nameOf(page.answer, where.of)}”: from {answerWords(where.covered, scale)} {isStrokes ? 'with nothing drawn' : 'with all of it covered'} to{' '}
        {answerWords(where.whole, scale)}.
      </p>
      <div className="mt-3 grid gap-x-6 gap-y-3 min-[520px]:grid-cols-[minmax(0,18rem)_1fr]">
        <div>
          {isStrokes && isPicture(value) && value.strokes ? (
            <StrokesOverlay strokes={value.strokes} contributions={where.contributions} />
          ) : (
            seen && <PatchesOverlay where={where} seen={seen} strength={strength / 100} scale={scale} />
          )}
          {!isStrokes && (
            <label className="mt-1 flex items-center gap-3 text-[0.85em] text-soft">
              Overlay
              <input
                type="range"
                className="slider"
                min={0}
                max={100}
                value={strength}
                onChange={(event) => setStrength(Number(event.target.value))}
              />
            </label>
          )}
        </div>
        <div>
          <PartsList where={where} scale={scale} />
          <p className="mt-2 text-[0.85em] text-soft" role="status">
            {howSure(where, scale)}
          </p>
        </div>
      </div>
      {!isStrokes && <PatchTable where={where} scale={scale} />}
    </section>
  )
}

function PatchesOverlay({ where, seen, strength, scale }: { where: Where; seen: string; strength: number; scale: Scale }) {
  const { n_rows, n_columns } = where
  return (
    <div className="relative">
      <img src={seen} alt="Your picture as the model sees it" className="block w-full border border-line [image-rendering:pixelated]" />
      <svg viewBox={`0 0 ${n_columns} ${n_rows}`} preserveAspectRatio="none" className="absolute inset-0 size-full" aria-hidden="true">
        {strengths(where.contributions, hardlyMatters(scale)).map((share, at) => {
          const [x, y] = [at % n_columns, Math.floor(at / n_columns)]
          return (
            <g key={at} className={share > 0 ? 'fill-raise' : 'fill-lower'}>
              <rect x={x} y={y} width={1} height={1} opacity={Math.abs(share) * strength} />
              {Math.abs(share) >= MARKED && strength > 0 && (
                <text x={x + 0.5} y={y + 0.7} fontSize={0.55} textAnchor="middle" className="fill-paper stroke-ink" strokeWidth={0.03}>
                  {share > 0 ? '▲' : '▼'}
                </text>
              )}
            </g>
          )
        })}
      </svg>
    </div>
  )
}

function StrokesOverlay({ strokes, contributions }: { strokes: Stroke[]; contributions: number[] }) {
  const shares = strengths(contributions)
  return (
    <svg viewBox="0 0 1 1" className="w-full border border-line bg-white" role="img" aria-label="Your drawing, its strokes numbered">
      {strokes.map((stroke, at) => (
        <g key={at}>
          <polyline
            points={stroke.map(([x, y]) => `${x},${y}`).join(' ')}
            fill="none"
            strokeLinecap="round"
            strokeLinejoin="round"
            strokeWidth={0.015 + 0.05 * Math.abs(shares[at] ?? 0)}
            className={(shares[at] ?? 0) > 0 ? 'stroke-[#0b6e6e]' : 'stroke-[#a85b00]'}
          />
          <text x={(stroke[0]?.[0] ?? 0) + 0.02} y={(stroke[0]?.[1] ?? 0) - 0.02} fontSize={0.06} className="fill-black">
            {at + 1}
          </text>
        </g>
      ))}
    </svg>
  )
}

/** Two of the smallest steps that words tell apart. */
function hardlyMatters({ factor, decimals }: Scale): number {
  return 2 / (factor * 10 ** decimals)
}

/** The ninths of a picture, or the strokes, in words; the strongest first. */
function PartsList({ where, scale }: { where: Where; scale: Scale }) {
  const isEstimate = where.method === 'sampled'
  const parts =
    where.parts === 'patches'
      ? where.regions.map((region) => ({ words: region.words, contribution: region.contribution }))
      : where.contributions
          .map((contribution, at) => ({ words: `stroke ${at + 1}`, contribution }))
          .sort((one, other) => Math.abs(other.contribution) - Math.abs(one.contribution))
  return (
    <ul className="text-[0.92em]" aria-label={where.parts === 'patches' ? 'Parts of the picture' : 'Strokes'}>
      {parts.slice(0, 9).map((part) => {
        const push = pushOf(part.contribution, scale, isEstimate)
        return (
          <li key={part.words} className="flex justify-between gap-3 border-t border-line py-0.5 first:border-t-0">
            <span>{part.words}</span>
            <span className={COLOURS[push.direction]}>
              {SIGNS[push.direction] && <span aria-hidden="true">{SIGNS[push.direction]} </span>}
              {push.words}
            </span>
          </li>
        )
      })}
    </ul>
  )
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
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Every patch">
        <table className="mt-2 text-right text-[0.85em]">
          <caption className="text-left text-soft">In {scale.unit || 'the answer’s unit'}, as the patches lie in the picture</caption>
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
      </div>
    </details>
  )
}
