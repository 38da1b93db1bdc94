/** What stands where the answer will: how to begin, ready cases, and what the answer usually is. */
import type { Inputs, Page } from '../../api/client'
import { countText, groupedText, listText } from '../../domain/format'
import { markOf } from '../../parts/Mark'
import { Tally } from '../../parts/Tally'
import { keepsInputs } from '../../domain/entered'
import { isSeen } from '../../domain/kinds'
import { MAX_CLASSES_AS_MARKS } from './ClassAnswer'

/** So many classes of the usual answer are named; the others are counted together. */
const USUAL_SHOWN = 5

export interface InvitationProps {
  page: Page
  onAsk: () => void
  onTry: (inputs: Inputs) => void
}

export function Invitation({ page, onAsk, onTry }: InvitationProps) {
  const isLooked = page.fields.some(isSeen)
  const { heading, words } = invitationOf(page)
  const usual = usualWords(page)
  return (
    <>
      <h2 id="answer-heading" className="text-[1.7em] leading-tight font-bold">
        {heading}
      </h2>
      <p className="mt-2 text-soft">{words}</p>
      {!isLooked && (
        <button type="button" className="button-primary mt-5" onClick={onAsk}>
          Show the answer
        </button>
      )}
      {page.samples.length > 0 && !isLooked && (
        <div className="mt-5">
          <p className="text-soft">Or try one of these:</p>
          <ul className="mt-2 flex flex-wrap gap-2">
            {page.samples.map((sample) => (
              <li key={sample.title}>
                <button type="button" className="button-plain" onClick={() => onTry(sample.inputs as Inputs)}>
                  {sample.title}
                </button>
              </li>
            ))}
          </ul>
        </div>
      )}
      {usual && (
        <div className="card-line mt-6 pt-4">
          <h3 className="font-bold">The usual answer</h3>
          <p className="text-soft">{usual}</p>
          {page.answer.kind === 'class' && <UsualMarks page={page} />}
        </div>
      )}
      {keepsInputs(page) && (
        <p className="mt-5 text-[0.88em] text-soft">What you enter is kept for {page.record_days} days, so that the author can improve the model.</p>
      )}
    </>
  )
}

/** The same in marks, each class with its own. */
function UsualMarks({ page }: { page: Page }) {
  if (page.answer.kind !== 'class') return null
  const { classes } = page.answer
  const asMarks = classes.length <= MAX_CLASSES_AS_MARKS
  const shown = (page.usual?.parts ?? []).filter((part) => Number(part.text) > 0).slice(0, USUAL_SHOWN)
  return (
    <ul className="mt-2 space-y-1" aria-hidden="true">
      {shown.map((part) => {
        const index = classes.findIndex((wording) => wording.name === part.name)
        const mark = markOf(index, classes[index])
        return (
          <li key={part.name} className="grid grid-cols-[minmax(5rem,8rem)_minmax(0,1fr)] items-start gap-x-3 text-soft">
            <span>{part.label}</span>
            <span className="pt-2">
              <Tally count={Number(part.text)} shape={asMarks ? mark.shape : 'stroke'} colour={asMarks ? mark.colour : undefined} isFine />
            </span>
          </li>
        )
      })}
    </ul>
  )
}

/** What the model gives on average over the author's table, as every explanation starts from it. */
function usualWords({ answer, usual }: Page): string {
  if (!usual) return ''
  const average = `The average over ${groupedText(usual.n_rows)} cases from the author’s table`
  switch (answer.kind) {
    case 'class': {
      const some = usual.parts.filter((part) => Number(part.text) > 0)
      // One that is left over is named rather than counted.
      const counts = some.slice(0, some.length === USUAL_SHOWN + 1 ? some.length : USUAL_SHOWN)
      const others = 100 - counts.reduce((sum, part) => sum + Number(part.text), 0)
      const named = counts.map((part) => countText(Number(part.text), part.label))
      return `${average}: of 100 ${answer.noun}, ${listText(others > 0 ? [...named, `${others} something else`] : named)}.`
    }
    case 'labels':
      return `${average}: ${listText(usual.parts.slice(0, 6).map((part) => `${part.label} ${part.text} of 100`))}.`
    default:
      return `${average}: ${listText(usual.parts.slice(0, 6).map((part) => `${answer.kind === 'numbers' ? `${part.label} ` : ''}${part.text} ${part.unit}`.trim()))}.`
  }
}

function invitationOf(page: Page): { heading: string; words: string } {
  const { fields, asks } = page
  const kept = (what: string) => (keepsInputs(page) ? '' : ` Nothing you ${what} is kept.`)
  if (fields.some((field) => field.kind === 'drawing')) return { heading: 'Draw it', words: `The answer appears here while you draw.${kept('draw')}` }
  if (fields.some((field) => field.kind === 'picture')) return { heading: 'Show it a picture', words: `The answer appears here at once.${kept('show it')}` }
  if (fields.every((field) => field.kind === 'text')) return { heading: 'Write it', words: `The answer appears here at once.${kept('write')}` }
  const isUsual = fields.every((field) => field.kind === 'text' || isSeen(field) || field.default !== null)
  // A function may come without a table; nobody knows then what is usual.
  const isCounted = fields.every((field) => field.kind !== 'number' || (field.seen.source ?? 'table') === 'table')
  const start = isUsual && isCounted ? ' Every value starts at what is usual.' : ''
  const then = asks === 'button' ? 'Set what you know about it, then ask for the answer.' : 'Set what you know about it, and the answer appears here at once.'
  return { heading: 'What is your case?', words: `${then}${start}` }
}
