/** What would change the answer: the smallest believable changes, each to be tried. */
import { useState } from 'react'
import type { Answer, InputValue, Page, Way } from '../../api/client'
import { countText, listText, numberText, valueText } from '../../domain/format'
import type { AnswerState } from '../case/answerLine'
import { answerText } from '../../domain/answerText'
import { useBeside } from '../case/beside'
import { parseNumber } from '../../domain/numbers'
import { SIGNS } from '../../domain/formState'

const PAUSE_MS = 250
/** Of 100: as the server's least lead of a class that is reached. */
const LEVEL_WITHIN = 5
/** Of the range of outcomes, what is worth a change. */
const BETTER_BY = 0.05

export interface WouldChangeProps {
  page: Page
  isDraft: boolean
  state: AnswerState
  /** Put these values into the form. */
  onTry: (values: Record<string, InputValue>) => void
}

export function WouldChange({ page, isDraft, state, onTry }: WouldChangeProps) {
  const [chosen, setChosen] = useState<string | null>(null)
  const [reach, setReach] = useState('')
  const number = parseNumber(reach, SIGNS)
  const answer = state.status === 'answered' ? state.answer.answer : null
  const to = chosen ?? wantedClass(page, answer)
  const wanted = number ?? wantedNumber(page, answer)
  // Only one class or one number can be brought somewhere.
  const canAsk = page.answer.kind === 'class' || page.answer.kind === 'number'
  const query = canAsk ? { with: 'changes', to: to || undefined, reach: wanted === null ? undefined : String(wanted) } : null
  const { found } = useBeside(page, isDraft, state, query, PAUSE_MS)
  const setting = page.answer
  if (setting.kind !== 'class' && setting.kind !== 'number') return null
  const changes = found?.answer.changes
  if (found && !changes) return null
  const isOld = found !== null && state.status === 'answered' && found.inputs !== state.inputs
  return (
    <section className="card-line mt-6 pt-4" aria-labelledby="changes-heading" aria-busy={isOld}>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h3 id="changes-heading" className="font-bold">
          What would change it
        </h3>
        {setting.kind === 'class' && setting.classes.length > 2 && (
          <label className="ml-auto text-[0.9em] text-soft print:hidden">
            to{' '}
            <select className="border-b border-edge bg-paper py-0.5 text-ink" value={to} onChange={(event) => setChosen(event.target.value)}>
              <option value="">anything else</option>
              {setting.classes.map((wording) => (
                <option key={wording.name} value={wording.name}>
                  {wording.label}
                </option>
              ))}
            </select>
          </label>
        )}
        {setting.kind === 'number' && (
          <label className="ml-auto text-[0.9em] text-soft print:hidden">
            to reach{' '}
            <input
              className="input-line w-20 text-right text-ink"
              inputMode="decimal"
              value={reach}
              placeholder={typeof changes?.reach === 'number' ? numberText(Number(changes.reach.toFixed(setting.decimals ?? 2))) : ''}
              onChange={(event) => setReach(event.target.value)}
            />{' '}
            {setting.unit}
          </label>
        )}
      </div>
      {/* Room for what will be found, so that nothing under it moves when it comes. */}
      <div className={`min-h-32 transition-opacity duration-150 ${isOld ? 'opacity-45' : ''}`}>
        {changes && (
          <>
          {answer && levelWords(answer) && <p className="mt-1 text-soft">{levelWords(answer)}</p>}
          {changes.is_there && <p className="mt-1 text-soft">It is there already.</p>}
          <ul>
            {changes.ways.map((way) => (
              <WayRow key={way.changes.map((one) => `${one.field} ${one.after}`).join()} page={page} way={way} isOld={isOld} onTry={onTry} />
            ))}
          </ul>
          {!changes.is_there && changes.ways.length === 0 && (
            <p className="mt-1 text-soft">
              {changes.is_complete
                ? `None of the changes of up to three values that were tried, each within the author’s table, ${setting.kind === 'class' ? 'makes another answer clearly the likelier' : 'reaches it'}.`
                : 'Nothing was found in the time there is. Ask again with other values.'}
            </p>
          )}
          {!changes.is_complete && changes.ways.length > 0 && (
            <p className="mt-1 text-[0.88em] text-soft">The time was up before everything was tried; there may be smaller changes.</p>
          )}
          </>
        )}
      </div>
    </section>
  )
}

interface WayRowProps {
  page: Page
  way: Way
  isOld: boolean
  onTry: (values: Record<string, InputValue>) => void
}

function WayRow({ page, way, isOld, onTry }: WayRowProps) {
  const words = way.changes.map((one) => changeWords(page, one.field, one.before as InputValue, one.after as InputValue))
  const values = Object.fromEntries(way.changes.map((one) => [one.field, one.after as InputValue]))
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
      <span className="min-w-0 flex-1">
        {listText(words)} <span className="text-soft">→ {answerText(page, way.answer)}</span>
      </span>
      <button
        type="button"
        className="button-plain py-0.5 text-[0.9em] print:hidden"
        aria-disabled={isOld}
        aria-label={`Try it: ${listText(words)}`}
        onClick={() => !isOld && onTry(values)}
      >
        Try it
      </button>
    </li>
  )
}

function changeWords(page: Page, name: string, before: InputValue, after: InputValue): string {
  const field = page.fields.find((item) => item.name === name)
  if (!field) return name
  return `${field.label} ${valueText(field, after)} instead of ${valueText(field, before)}`
}

/** What a visitor would want, where the author said which class is good news; else anything else. */
function wantedClass({ answer: setting }: Page, answer: Answer | null): string {
  if (setting.kind !== 'class' || setting.classes.length < 3 || answer?.kind !== 'class') return ''
  const good = setting.classes.filter((wording) => wording.tone === 'calm')
  return good.length === 1 && good[0] && good[0].name !== answer.class ? good[0].name : ''
}

/** Where the author said which way is good: the usual answer, or from there on somewhat better than now. */
function wantedNumber({ answer: setting, usual }: Page, answer: Answer | null): number | null {
  if (setting.kind !== 'number' || answer?.kind !== 'number' || !setting.better) return null
  const { low, high, decimals, better } = setting
  if (typeof low !== 'number' || typeof high !== 'number') return null
  const side = better === 'low' ? -1 : 1
  const typical = usual?.parts[0]?.value
  const isWorse = typical !== undefined && side * (typical - answer.value) > 0
  const aim = isWorse ? typical : answer.value + side * BETTER_BY * (high - low)
  return Number(Math.min(high, Math.max(low, aim)).toFixed(decimals ?? 2))
}

/** Said where the two likeliest classes are nearly as likely as each other. */
function levelWords(answer: Answer): string {
  if (answer.kind !== 'class') return ''
  const [first, second] = answer.probabilities
  if (!first || !second || first.of_100 - second.of_100 >= LEVEL_WITHIN) return ''
  return `It is nearly level: ${countText(first.of_100, first.label)}, ${countText(second.of_100, second.label)}, of 100. Only what makes a clear difference is offered.`
}
