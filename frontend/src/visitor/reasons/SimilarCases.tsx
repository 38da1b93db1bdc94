/** The cases of the author's table most like this one, and what happened to them. */
import { memo } from 'react'
import type { Field, Inputs, InputValue, Page, SimilarCase } from '../../api/client'
import { countText, listText, valueText } from '../../domain/format'
import { answerText } from '../../domain/answerText'
import { isSeen } from '../../domain/kinds'
import { Framed } from '../../parts/Framed'

/** Of how many values a row says where they differ; the rest is in the table. */
const DIFFERENCES_SHOWN = 3

export interface SimilarCasesProps {
  page: Page
  inputs: Inputs
  cases: SimilarCase[]
}

export const SimilarCases = memo(function SimilarCases({ page, inputs, cases }: SimilarCasesProps) {
  if (cases.length === 0) return null
  return (
    <section className="card-line mt-6 pt-4" aria-labelledby="similar-heading">
      <h3 id="similar-heading" className="font-bold">
        {cases.length === 1 ? 'The case most like this one' : 'Cases like this one'}
      </h3>
      <p className="text-[0.88em] text-soft">{outcomeWords(page, cases)}</p>
      <ol className="mt-1">
        {cases.map((one, at) => (
          // A case has no identity but its place.
          <li key={at} className="grid gap-x-3 py-1 text-[0.94em] min-[500px]:grid-cols-[7.5em_minmax(0,1fr)]">
            <span className="font-bold">{one.outcome_text ?? answerText(page, one.answer)}</span>
            <span className="text-soft">{differenceWords(page.fields.filter(isInTable), inputs, one)}</span>
          </li>
        ))}
      </ol>
      <details className="mt-1 text-[0.92em]">
        <summary className="button-quiet w-fit">Read as a table</summary>
        <Framed label="Cases like this one, as a table">
          <table className="mt-2 text-left whitespace-nowrap">
            <thead>
              <tr className="text-soft">
                <th className="py-1 pr-4 font-normal">Field</th>
                <th className="py-1 pr-4 font-normal">Yours</th>
                {cases.map((_, at) => (
                  <th key={at} className="py-1 pr-4 font-normal">
                    Case {at + 1}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              <tr className="border-t border-line">
                <th className="py-1 pr-4 font-normal">What happened</th>
                <td className="py-1 pr-4">?</td>
                {cases.map((one, at) => (
                  <td key={at} className="py-1 pr-4">
                    {one.outcome_text ?? 'not said'}
                  </td>
                ))}
              </tr>
              {page.fields.filter(isInTable).map((field) => (
                <tr key={field.name} className="border-t border-line">
                  <th className="py-1 pr-4 font-normal">{field.label}</th>
                  <td className="py-1 pr-4">{valueText(field, inputs[field.name])}</td>
                  {cases.map((one, at) => {
                    const value = one.inputs[field.name] as InputValue
                    return (
                      <td key={at} className={`py-1 pr-4 ${value === inputs[field.name] ? 'text-soft' : 'font-bold'}`}>
                        {valueText(field, value)}
                      </td>
                    )
                  })}
                </tr>
              ))}
            </tbody>
          </table>
        </Framed>
      </details>
    </section>
  )
})

/** "What happened to the 5 most similar in the author's table: 4 crack, 1 warp." */
function outcomeWords({ answer }: Page, cases: SimilarCase[]): string {
  if (cases.every((one) => one.outcome_text === null)) return 'The author’s table does not say what happened to them; this is what the model says.'
  // Only classes can be counted.
  if (answer.kind !== 'class') {
    return `What happened to the ${cases.length} most similar in the author’s table.`
  }
  const counts = new Map<string, { count: number; one: string }>()
  for (const { outcome, outcome_text } of cases) {
    if (outcome_text !== null) counts.set(String(outcome), { count: (counts.get(String(outcome))?.count ?? 0) + 1, one: outcome_text })
  }
  // One cracks, two crack.
  const several = (name: string, one: string) => (answer.kind === 'class' && answer.classes.find((wording) => wording.name === name)?.label) || one
  const words = [...counts]
    .sort((a, b) => b[1].count - a[1].count)
    .map(([name, { count, one }]) => countText(count, count === 1 ? one : several(name, one)))
  return `What happened to the ${cases.length} most similar in the author’s table: ${listText(words)}.`
}

function differenceWords(fields: Field[], inputs: Inputs, one: SimilarCase): string {
  const differing = fields
    .map((field) => ({ field, mine: inputs[field.name], other: one.inputs[field.name] as InputValue }))
    .filter(({ mine, other }) => mine !== other)
    .sort((a, b) => differenceSize(b.field, b.mine, b.other) - differenceSize(a.field, a.mine, a.other))
  if (differing.length === 0) return 'the same in everything'
  const words = differing.slice(0, DIFFERENCES_SHOWN).map(({ field, other }) => `${field.label} ${valueText(field, other)}`)
  const more = differing.length - words.length
  return listText(more > 0 ? [...words, `${more} smaller ${more === 1 ? 'difference' : 'differences'}`] : words)
}

/** How far apart two values are, as a share of the usual range; 1 for different options. */
function differenceSize(field: Field, mine: InputValue | undefined, other: InputValue): number {
  if (field.kind !== 'number' || typeof mine !== 'number' || typeof other !== 'number') return 1
  return Math.abs(mine - other) / (field.seen.usual_high - field.seen.usual_low || field.maximum - field.minimum || 1)
}

/** The reference table has no pictures. */
function isInTable(field: Field): boolean {
  return !isSeen(field)
}
