/** What was concluded about the model and publishing asks about: each can be confirmed, with rows to compare it by. */
import type { DemoState, Question } from '../../api/client'
import { numberText } from '../../domain/format'
import type { Draft } from '../bench/useDraft'

const CONFIRMS: Record<Question['name'], string> = {
  features: 'The columns stand in this order: the answers are those of my notebook',
  'class-order': 'The names are matched rightly',
  preparation: 'Pictures were prepared so for the training',
  reading: 'The answer is read as it is meant',
}

export function Questions({ draft }: { draft: Draft }) {
  const { questions } = draft.demo
  if (questions.length === 0) return null
  return (
    <section className="mt-3 border-l-3 border-caution pl-4" aria-labelledby="questions-heading" data-testid="questions">
      <h3 id="questions-heading" className="font-bold">
        To be confirmed before it is published
      </h3>
      <ul className="space-y-4">
        {questions.map((question) => (
          <li key={question.name}>
            <p className="mt-1 text-caution">
              <span aria-hidden="true">! </span>
              {question.text} {question.way_on}
            </p>
            <Compared question={question} demo={draft.demo} />
            <button
              type="button"
              className="button-plain mt-2"
              onClick={() => void draft.save((now) => ({ confirmed: [...(now.confirmed ?? []), question.name] }))}
            >
              {CONFIRMS[question.name]}
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** A few rows with what the model says of them here. */
function Compared({ question, demo }: { question: Question; demo: DemoState }) {
  const rows = question.rows ?? []
  if (rows.length === 0) return null
  const names = Object.keys(rows[0] ?? {})
  const outputs = outputNames(demo)
  return (
    <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Rows to compare with your notebook">
      <table className="text-left whitespace-nowrap">
        <thead>
          <tr className="text-soft">
            {names.map((name) => (
              <th key={name} scope="col" className="pr-4 font-normal">
                {name}
              </th>
            ))}
            {outputs.map((name) => (
              <th key={name} scope="col" className="pr-4 font-bold">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => (
            // A row has no identity but its place.
            <tr key={at} className="border-t border-line">
              {names.map((name) => (
                <td key={name} className="py-0.5 pr-4">
                  {String(row[name] ?? '')}
                </td>
              ))}
              {(question.outputs?.[at] ?? []).map((value, output) => (
                <td key={output} className="py-0.5 pr-4 font-bold">
                  {numberText(Number(value.toPrecision(6)))}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function outputNames({ answer }: DemoState): string[] {
  switch (answer.kind) {
    case 'class':
      return answer.classes.map((wording) => wording.name)
    case 'labels':
      return answer.labels.map((wording) => wording.name)
    case 'numbers':
      return answer.values.map((value) => value.name ?? '')
    case 'number':
      return [answer.name ?? 'Answer']
    case 'boxes':
    case 'picture':
    case 'mask':
    case 'text':
    case 'table':
      return []
  }
}
