/** What brought the answer from the usual one to this one: rows of marks, the small rest together, all as a table. */
import { memo } from 'react'
import type { Answer, Contribution, Explanation, Field, Inputs, InputValue, Page } from '../../api/client'
import { valueText } from '../../domain/format'
import { amountOfAMark, Tally } from '../../parts/Tally'
import { sumOf } from '../../domain/adding'
import { answerWords, isOfSeveral, nameOf, pushOf, scaleOf, strongest, type Scale } from '../../domain/why'
import { Framed } from '../../parts/Framed'

const SHOWN = 5
/** More marks than this in a row are not counted by anyone. */
const MOST_MARKS = 40

export interface ContributionsProps {
  page: Page
  /** Its numbers as they are shown: they add up. */
  explanation: Explanation
  inputs: Inputs
  answer: Answer
  /** Whether what is shown is about values from before, as yet. */
  isBusy: boolean
  /** Whether that has lasted, so that it must be said. */
  isOld: boolean
}

export const Contributions = memo(function Contributions({ page, explanation, inputs, answer, isBusy, isOld }: ContributionsProps) {
  const scale = scaleOf(page.answer, explanation.of, answer)
  const { shown, rest, together } = strongest(explanation, SHOWN)
  const end = sumOf(explanation.contributions.map((one) => one.contribution), explanation.baseline)
  const isShare = scale.factor === 100
  const of = nameOf(page.answer, explanation.of)
  const amount = markAmount(explanation.contributions, scale)
  return (
    <section className="card-line mt-6 pt-4" aria-labelledby="contributions-heading" aria-busy={isBusy} data-testid="contributions">
      <h3 id="contributions-heading" className="font-bold">
        What brought {isOfSeveral(page.answer) ? `“${of}”` : 'it'} from the usual {answerWords(explanation.baseline, scale)} to {answerWords(end, scale)}
      </h3>
      <p className="text-[0.88em] text-soft">
        {isOld && <strong className="text-caution">About the values before; newer ones are being worked out. </strong>}
        The usual answer{isShare ? ` for “${of}”` : ''} is the average over {explanation.n_background} cases from the author’s table. One mark is{' '}
        {isShare ? 'one of 100' : `${amountWords(amount)} ${scale.unit}`.trim()}.
      </p>
      <ul className={`mt-2 ${isOld ? 'opacity-45' : ''}`}>
        {shown.map((one) => (
          <ContributionRow key={one.field} page={page} one={one} inputs={inputs} scale={scale} amount={amount} />
        ))}
      </ul>
      {rest.length > 0 && (
        <p className="mt-1 flex justify-between gap-3 text-[0.92em] text-soft" data-testid="rest">
          <span>and {rest.length === 1 ? '1 smaller one' : `${rest.length} smaller ones, together`}</span>
          <span>{pushOf(together, scale).words}</span>
        </p>
      )}
      <details className="mt-2 text-[0.92em]">
        <summary className="button-quiet w-fit">Read as a table</summary>
        <ContributionTable page={page} explanation={explanation} inputs={inputs} scale={scale} end={end} />
      </details>
    </section>
  )
})

/** A field, also one that the author fixed. */
function fieldOf({ fields, fixed }: Page, name: string): Field | undefined {
  return [...fields, ...(fixed ?? [])].find((item) => item.name === name)
}

function valueOf({ fixed }: Page, field: Field, inputs: Inputs): InputValue {
  return fixed?.includes(field) ? ((field.default ?? null) as InputValue) : (inputs[field.name] ?? null)
}

/** One of 100 where the answer is a share; else a round amount that keeps rows countable. */
function markAmount(contributions: Contribution[], scale: Scale): number {
  const largest = Math.max(...contributions.map((one) => Math.abs(one.contribution)), 0)
  return scale.factor === 100 ? 0.01 : amountOfAMark(largest, MOST_MARKS, 10 ** -scale.decimals)
}

function amountWords(amount: number): string {
  return amount === 1 ? 'one' : amount === 0.5 ? 'half a' : String(amount)
}

interface ContributionRowProps {
  page: Page
  one: Contribution
  inputs: Inputs
  scale: Scale
  amount: number
}

function ContributionRow({ page, one, inputs, scale, amount }: ContributionRowProps) {
  const field = fieldOf(page, one.field)
  if (!field) return null
  const push = pushOf(one.contribution, scale, (one.error ?? 0) > 0)
  const isUp = one.contribution > 0
  const colour = push.direction === 'none' ? 'text-soft' : isUp ? 'text-raise' : 'text-lower'
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-x-3 py-1 min-[480px]:grid-cols-[minmax(0,12rem)_minmax(0,1fr)_auto]">
      <span className="min-w-0 leading-snug break-words">
        {field.label} <span className="text-soft">{valueText(field, valueOf(page, field, inputs))}</span>
      </span>
      <span className={`order-3 col-span-2 pt-1.5 min-[480px]:order-none min-[480px]:col-span-1 ${colour}`}>
        <Tally count={Math.round(Math.abs(one.contribution) / amount)} shape={isUp ? 'up' : 'down'} />
      </span>
      <span className={`min-w-[7.2em] text-right ${colour}`}>{push.words}</span>
    </li>
  )
}

function ContributionTable({ page, explanation, inputs, scale, end }: Omit<ContributionsProps, 'answer' | 'isBusy' | 'isOld'> & { scale: Scale; end: number }) {
  const edge = (words: string, value: number) => (
    <tr className="border-t border-line">
      <td className="py-1" colSpan={2}>
        {words}
      </td>
      <td className="py-1 text-right">{answerWords(value, scale)}</td>
    </tr>
  )
  return (
    <Framed label="What brought it there, as a table">
      <table className="mt-2 w-full text-left">
        <thead>
          <tr className="text-soft">
            <th className="py-1 pr-3 font-normal">Field</th>
            <th className="py-1 pr-3 font-normal">Your value</th>
            <th className="py-1 text-right font-normal">What it does</th>
          </tr>
        </thead>
        <tbody>
          {edge('The usual answer', explanation.baseline)}
          {explanation.contributions.map((one) => {
            const field = fieldOf(page, one.field)
            return (
              <tr key={one.field} className="border-t border-line">
                <td className="py-1 pr-3">{field?.label ?? one.field}</td>
                <td className="py-1 pr-3">{field ? valueText(field, valueOf(page, field, inputs)) : ''}</td>
                <td className="py-1 text-right">{pushOf(one.contribution, scale, (one.error ?? 0) > 0).words}</td>
              </tr>
            )
          })}
          {edge('Your answer', end)}
        </tbody>
      </table>
    </Framed>
  )
}
