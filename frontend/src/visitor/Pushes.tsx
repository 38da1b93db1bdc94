/** What brought the answer from the usual one to this one: the strongest pushes, the rest together, all as a table. */
import { memo } from 'react'
import type { Answer, Contribution, Explanation, Inputs, Page } from '../api/client'
import { valueText } from '../parts/format'
import { answerWords, nameOf, pushOf, scaleOf, strongest, type Scale } from './why'

const SHOWN = 5

export interface PushesProps {
  page: Page
  explanation: Explanation
  inputs: Inputs
  /** What the contributions end at, and the answer that is. */
  end: number
  answer: Answer
}

export const Pushes = memo(function Pushes({ page, explanation, inputs, end, answer }: PushesProps) {
  const scale = scaleOf(page.answer, explanation.of, answer)
  const { shown, rest, together } = strongest(explanation, SHOWN)
  const largest = Math.max(...explanation.contributions.map((one) => Math.abs(one.contribution)), Number.MIN_VALUE)
  const isSeveral = page.answer.kind === 'labels' || page.answer.kind === 'numbers'
  const isClass = page.answer.kind === 'class' || page.answer.kind === 'labels'
  return (
    <section className="card-line mt-6 pt-4" aria-labelledby="pushes-heading">
      <h3 id="pushes-heading" className="font-bold">
        What brought {isSeveral ? `“${nameOf(page.answer, explanation.of)}”` : 'it'} from {answerWords(explanation.baseline, scale)} to {answerWords(end, scale)}
      </h3>
      <p className="text-[0.88em] text-soft">
        {answerWords(explanation.baseline, scale)} is the usual answer
        {isClass ? ` for “${nameOf(page.answer, explanation.of)}”` : ''}: the average over {explanation.n_background} cases from
        the author’s table.
      </p>
      <ul className="mt-2">
        {shown.map((one) => (
          <PushRow key={one.field} page={page} one={one} inputs={inputs} scale={scale} largest={largest} />
        ))}
      </ul>
      {rest.length > 0 && (
        <p className="mt-1 text-[0.92em] text-soft">
          and {rest.length} smaller {rest.length === 1 ? 'one' : 'ones, together'} {pushOf(together, scale).short}
        </p>
      )}
      <details className="mt-2 text-[0.92em]">
        <summary className="button-quiet w-fit">Read as a table</summary>
        <PushTable page={page} explanation={explanation} inputs={inputs} scale={scale} />
      </details>
    </section>
  )
})

interface PushRowProps {
  page: Page
  one: Contribution
  inputs: Inputs
  scale: Scale
  largest: number
}

function PushRow({ page, one, inputs, scale, largest }: PushRowProps) {
  const field = page.fields.find((item) => item.name === one.field)
  if (!field) return null
  const push = pushOf(one.contribution, scale, (one.error ?? 0) > 0)
  const share = (Math.abs(one.contribution) / largest) * 50
  const isUp = one.contribution > 0
  return (
    <li className="grid grid-cols-[minmax(0,5fr)_minmax(0,5fr)_auto] items-center gap-3 py-1">
      <span className="min-w-0 min-[500px]:truncate">
        {field.label} <span className="text-soft">{valueText(field, inputs[field.name])}</span>
      </span>
      <span className="relative h-3" aria-hidden="true">
        <span className="absolute inset-y-[-4px] left-1/2 border-l border-edge" />
        <span
          className={`absolute inset-y-0 ${isUp ? 'bg-raise' : 'bg-lower'}`}
          style={isUp ? { left: '50%', width: `${share}%` } : { right: '50%', width: `${share}%` }}
        />
      </span>
      <span className={`min-w-[4em] text-right ${isUp ? 'text-raise' : 'text-lower'}`}>
        <span aria-hidden="true">
          {isUp ? '▲' : '▼'} {push.short}
        </span>
        <span className="sr-only">{push.words}</span>
      </span>
    </li>
  )
}

function PushTable({ page, explanation, inputs, scale }: Omit<PushesProps, 'answer' | 'end'> & { scale: Scale }) {
  return (
    <table className="mt-2 w-full text-left">
      <thead>
        <tr className="text-soft">
          <th className="py-1 font-normal">Field</th>
          <th className="py-1 font-normal">Your value</th>
          <th className="py-1 text-right font-normal">Push</th>
        </tr>
      </thead>
      <tbody>
        {explanation.contributions.map((one) => {
          const field = page.fields.find((item) => item.name === one.field)
          return (
            <tr key={one.field} className="border-t border-line">
              <td className="py-1">{field?.label ?? one.field}</td>
              <td className="py-1">{field ? valueText(field, inputs[field.name]) : ''}</td>
              <td className="py-1 text-right">{pushOf(one.contribution, scale, (one.error ?? 0) > 0).words}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
