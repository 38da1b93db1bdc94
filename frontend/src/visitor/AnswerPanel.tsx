/** The answer: a sentence, a picture of it, what was asked, and what to be careful about. */
import type { ReactNode } from 'react'
import type { Answer, ClassAnswer, ClassSetting, Explanation, FieldProblem, Inputs, Note, Page } from '../api/client'
import { ClassBars } from '../parts/ClassBars'
import { countText, listText, valueText } from '../parts/format'
import { HundredMarks } from '../parts/HundredMarks'
import { InlineMark, markOf } from '../parts/Mark'
import { NumberScale } from '../parts/NumberScale'
import { SeveralLabels, SeveralNumbers } from './SeveralAnswers'
import { AmongCases } from './AmongCases'
import type { Answered, AnswerState } from './answerLine'
import { isSeen } from './beside'
import { Kept, type KeptAnswer } from './Kept'
import { Pushes } from './Pushes'
import { SimilarCases } from './SimilarCases'
import { useWhere } from './where'
import { WhereLooked } from './WhereLooked'
import { WouldChange } from './WouldChange'

/** Up to this many classes are shown as 100 marks, more as named bars. */
const MAX_CLASSES_AS_MARKS = 4

export interface AnswerPanelProps {
  page: Page
  isDraft: boolean
  state: AnswerState
  /** What explains the answer; a moment behind it while values move. */
  explained: Answered | null
  kept: KeptAnswer[]
  onAsk: () => void
  onReset: () => void
  /** Put these values into the form. */
  onTry: (inputs: Inputs) => void
  onDrop: (number: number) => void
  /** Of several answers, the one that fields and sections are to be about. */
  onChoose: (name: string) => void
  /** More that can be done with an answer. */
  children?: ReactNode
}

export function AnswerPanel(props: AnswerPanelProps) {
  const { page, state, kept, onReset, onTry, onDrop, children } = props
  return (
    <section id="answer" aria-labelledby="answer-heading" aria-busy={isBusy(state)} className="scroll-mt-4">
      {renderState(props)}
      {state.status !== 'invitation' && (
        <div className="mt-5 flex flex-wrap gap-3 text-[0.9em] print:hidden">
          {children}
          <button type="button" className="button-plain" onClick={onReset}>
            Start again
          </button>
        </div>
      )}
      <Kept
        page={page}
        kept={kept}
        now={state.status === 'answered' ? { inputs: state.inputs, answer: state.answer.answer } : null}
        onDrop={onDrop}
        onTakeUp={onTry}
      />
      {state.status === 'answered' && <Behind {...props} state={state} />}
    </section>
  )
}

function isBusy(state: AnswerState): boolean {
  return state.status === 'asking' || (state.status === 'answered' && state.isStale)
}

function renderState({ page, state, explained, onAsk, onTry, onChoose }: AnswerPanelProps): ReactNode {
  switch (state.status) {
    case 'invitation':
      return <Invitation page={page} onAsk={onAsk} onTry={onTry} />
    case 'asking':
      return <Quiet heading="Asking the model…" />
    case 'waiting':
      return <Quiet heading="One moment…">{state.message} This page asks again by itself.</Quiet>
    case 'failed':
      return (
        <Quiet heading="No answer for this">
          {state.message}
          {state.traceback && (
            <pre className="mt-4 max-h-96 overflow-auto border border-line p-3 text-[0.75em]">{state.traceback}</pre>
          )}
        </Quiet>
      )
    case 'refused':
      return <Refused faults={state.faults} />
    case 'answered':
      return (
        <>
          <p className="text-[0.88em] text-soft">
            {page.fields.every(isSeen) ? (page.fields[0]?.kind === 'drawing' ? 'Answer to this drawing' : 'Answer to this picture') : 'Answer for these values'}
            {page.release ? ` · version ${page.release}` : ' · draft'}
          </p>
          {renderAnswer({
            page,
            answer: state.answer.answer,
            caution: isUnlike(state, explained) && <Unlike page={page} />,
            chosen: explained?.answer.explanation?.of ?? explained?.answer.curves?.[0]?.of ?? null,
            onChoose,
          })}
          <AnswerNotes notes={state.answer.notes} />
        </>
      )
  }
}

/** What stands behind an answer: why, what would change it, what it is like, and what was asked. */
function Behind({ page, isDraft, state, explained, onTry }: AnswerPanelProps & { state: Answered }) {
  const explanation = explained?.answer.explanation ?? null
  const { parts } = page
  // With one field there is nothing to set against each other.
  const hasSeveral = page.fields.length > 1
  const canChange = page.fields.some((field) => field.kind !== 'text' && !isSeen(field) && field.changeable)
  const where = useWhere(page, isDraft, state)
  const of = explanation?.of ?? explained?.answer.curves?.[0]?.of
  return (
    <>
      {where.map((one) => (
        <WhereLooked key={one.field} page={page} answer={state.answer.answer} inputs={state.inputs} where={one} seen={state.answer.seen?.[one.field]} />
      ))}
      {hasSeveral && explanation && explained && (
        <Pushes page={page} explanation={explanation} inputs={explained.inputs} end={endOf(explanation)} answer={explained.answer.answer} />
      )}
      {explained && !explanation && parts.pushes && <NotExplained notes={explained.answer.notes} />}
      {parts.changes && canChange && <WouldChange page={page} isDraft={isDraft} state={state} onTry={onTry} />}
      {explained?.answer.similar && <SimilarCases page={page} inputs={explained.inputs} cases={explained.answer.similar} />}
      {parts.among && explained && of && (
        <AmongCases page={page} isDraft={isDraft} inputs={explained.inputs} explanation={explanation} of={of} />
      )}
      <Echo page={page} inputs={state.inputs} />
    </>
  )
}

function isUnlike(state: Answered, explained: Answered | null): boolean {
  const { answer, familiarity } = state.answer
  return (answer.kind === 'class' && answer.unlike) || (familiarity?.is_unlike ?? false) || (explained?.answer.familiarity?.is_unlike ?? false)
}

function Unlike({ page }: { page: Page }) {
  return (
    <p className="mt-1 text-caution">
      <span aria-hidden="true">! </span>
      {unlikeWhat(page)}: the model has not seen its like, and may be quite wrong. How sure it is cannot be said.
    </p>
  )
}

function unlikeWhat({ fields }: Page): string {
  const [first] = fields
  if (fields.length === 1 && first && isSeen(first)) return `This ${first.kind} is unlike those that the model was tried on`
  return `This ${fields.length === 1 && first?.kind === 'text' ? 'text' : 'case'} is unlike anything in the author’s table`
}

/** Why an answer comes without its explanation. */
function NotExplained({ notes }: { notes: Note[] }) {
  return notes
    .filter((note) => note.field === null && note.message.startsWith('The answer is not explained'))
    .map((note) => (
      <p key={note.message} className="card-line mt-6 pt-4 text-[0.92em] text-soft">
        {note.message}
      </p>
    ))
}

/** What baseline and contributions add up to. */
function endOf(explanation: Explanation): number {
  return explanation.contributions.reduce((sum, one) => sum + one.contribution, explanation.baseline)
}

interface InvitationProps {
  page: Page
  onAsk: () => void
  onTry: (inputs: Inputs) => void
}

function Invitation({ page, onAsk, onTry }: InvitationProps) {
  return (
    <>
      <h2 id="answer-heading" className="text-[1.7em] leading-tight font-bold">
        {invitationOf(page).heading}
      </h2>
      <p className="mt-2 text-soft">{invitationOf(page).words}</p>
      {!page.fields.some(isSeen) && (
        <button type="button" className="button-primary mt-5" onClick={onAsk}>
          Show the answer
        </button>
      )}
      {page.samples.length > 0 && !page.fields.some(isSeen) && (
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
      {page.records_inputs && (
        <p className="mt-5 text-[0.88em] text-soft">What you enter is kept, so that the author can improve the model.</p>
      )}
    </>
  )
}

function invitationOf({ fields, records_inputs }: Page): { heading: string; words: string } {
  const kept = records_inputs ? '' : ' Nothing you show it is kept.'
  if (fields.some((field) => field.kind === 'drawing')) return { heading: 'Draw it', words: `The answer appears here while you draw.${kept}` }
  if (fields.some((field) => field.kind === 'picture')) return { heading: 'Show it a picture', words: `The answer appears here at once.${kept}` }
  return { heading: 'What is your case?', words: 'Set what you know about it, and the answer appears here at once. Every value starts at what is usual.' }
}

function Quiet({ heading, children }: { heading: string; children?: ReactNode }) {
  return (
    <>
      <h2 id="answer-heading" className="text-[1.4em] font-bold">
        {heading}
      </h2>
      {children && <div className="mt-2 text-soft">{children}</div>}
    </>
  )
}

function Refused({ faults }: { faults: FieldProblem[] }) {
  return (
    <>
      <h2 id="answer-heading" className="text-[1.4em] font-bold">
        The answer waits for {faults.length === 1 ? 'one value' : `${faults.length} values`}
      </h2>
      <ul className="mt-2 space-y-1 text-soft">
        {faults.map((fault) => (
          <li key={`${fault.field} ${fault.message}`}>{fault.message}</li>
        ))}
      </ul>
    </>
  )
}

interface Rendered {
  page: Page
  answer: Answer
  /** What must be read before any number is; stands right under the headline. */
  caution: ReactNode
  /** Of several answers, the one that is explained now. */
  chosen: string | null
  onChoose: (name: string) => void
}

function renderAnswer({ page, answer, caution, chosen, onChoose }: Rendered): ReactNode {
  switch (answer.kind) {
    case 'class':
      return page.answer.kind === 'class' && <ClassView answer={answer} setting={page.answer} caution={caution} />
    case 'number': {
      const setting = page.answer.kind === 'number' ? page.answer : null
      return (
        <>
          <p className="mt-1 text-soft">{setting?.name}</p>
          <h2 id="answer-heading" className="text-[2.6em] leading-tight font-bold">
            {answer.text} <span className="text-[0.5em] font-normal">{answer.unit}</span>
          </h2>
          {caution}
          {answer.interval && (
            <p className="text-[1.06em]">
              usually within ±{answer.interval.text} {answer.unit}{' '}
              <span className="text-soft">({Math.round(answer.interval.coverage * 100)} of 100 times, for cases like those it was tried on)</span>
            </p>
          )}
          {setting && setting.low !== null && setting.low !== undefined && setting.high !== null && setting.high !== undefined && (
            <NumberScale value={answer.value} text={answer.text} setting={setting} />
          )}
        </>
      )
    }
    case 'numbers':
      return <SeveralNumbers page={page} answer={answer} caution={caution} chosen={chosen} onChoose={onChoose} />
    case 'labels':
      return <SeveralLabels page={page} answer={answer} caution={caution} chosen={chosen} onChoose={onChoose} />
  }
}

function ClassView({ answer, setting, caution }: { answer: ClassAnswer; setting: ClassSetting; caution: ReactNode }) {
  const likeliest = answer.probabilities[0]
  const others = answer.probabilities.slice(1).filter((item) => item.of_100 > 0)
  return (
    <>
      <h2 id="answer-heading" className="mt-1 text-[2em] leading-tight font-bold">
        {answer.headline}
      </h2>
      {caution}
      {likeliest && (
        <p className="mt-1 text-[1.06em]">
          {answer.calibrated
            ? `${likeliest.of_100} of 100 ${setting.noun} like this ${likeliest.label}`
            : `The model puts it at ${likeliest.of_100} of 100 ${setting.noun}`}
          {others.length > 0 && others.length <= 3 && (
            <span className="text-soft">; {listText(others.map((item) => countText(item.of_100, item.label)))}</span>
          )}
          .
        </p>
      )}
      {answer.possible && likeliest && <Possible answer={answer} setting={setting} possible={answer.possible} />}
      {likeliest && setting.classes.length > MAX_CLASSES_AS_MARKS && (
        <div className="mt-5">
          <ClassBars answer={answer} />
        </div>
      )}
      {likeliest && setting.classes.length <= MAX_CLASSES_AS_MARKS && (
        <div className="mt-5 flex flex-wrap items-start gap-x-8 gap-y-4">
          <div className="w-52 max-w-full">
            <HundredMarks answer={answer} setting={setting} />
          </div>
          <ClassLegend answer={answer} setting={setting} />
        </div>
      )}
    </>
  )
}

interface PossibleProps {
  answer: ClassAnswer
  setting: ClassSetting
  possible: NonNullable<ClassAnswer['possible']>
}

/** What known cases leave possible. Word and set follow one rule, at stated shares; a case unlike them has neither. */
function Possible({ answer, setting, possible }: PossibleProps) {
  const times = Math.round(possible.coverage * 100)
  return (
    <p className="mt-1 text-soft">
      {possibleWords(answer, setting, possible)} {times} of 100 times.
    </p>
  )
}

function possibleWords(answer: ClassAnswer, setting: ClassSetting, possible: NonNullable<ClassAnswer['possible']>): string {
  const labelOf = (name: string) => `“${setting.classes.find((wording) => wording.name === name)?.label ?? name}”`
  const [first = '', ...others] = possible.classes
  if (others.length === 0) return `Going by known cases only ${labelOf(first)} stays possible. What stays possible holds the truth`
  const named = (wanted: string) => others.filter((_, at) => possible.words?.[at + 1] === wanted).map(labelOf)
  const [likely, alsoPossible, notRuledOut] = [named('likely'), named('possible'), named('not ruled out')]
  const words: string[] = []
  if (likely.length) words.push(`${listText(likely)} ${likely.length > 1 ? 'are' : 'is'} as likely`)
  if (alsoPossible.length) words.push(`${listText(alsoPossible)} ${alsoPossible.length > 1 ? 'are' : 'is'} possible too`)
  if (notRuledOut.length) words.push(`${listText(notRuledOut)} cannot be ruled out`)
  const isUnsure = answer.probabilities.length > 2 && possible.words?.[0] !== 'likely'
  return `${isUnsure ? 'It is unsure: nothing is more likely than not. ' : ''}${words.join('; ')}. What stays possible by known cases holds the truth`
}

/** Which mark is which class, with its count. */
export function ClassLegend({ answer, setting }: { answer: ClassAnswer; setting: ClassSetting }) {
  const names = setting.classes.map((wording) => wording.name)
  return (
    <ul className="space-y-1.5">
      {answer.probabilities.map((item) => {
        const index = names.indexOf(item.class)
        return (
          <li key={item.class} className="flex items-baseline gap-2" title={`${(item.probability * 100).toFixed(1)} %`}>
            <InlineMark {...markOf(index, setting.classes[index])} />
            <span className="min-w-[1.6em] text-right font-bold">{item.of_100}</span>
            <span>{item.label}</span>
          </li>
        )
      })}
    </ul>
  )
}

function AnswerNotes({ notes }: { notes: Note[] }) {
  if (notes.length === 0) return null
  return (
    <ul className="mt-5 space-y-1 text-[0.92em] text-caution">
      {notes.map((note) => (
        <li key={note.message}>
          <span aria-hidden="true">! </span>
          {note.message}
        </li>
      ))}
    </ul>
  )
}

/** What was asked, so that a printed page makes sense on its own. */
function Echo({ page, inputs }: { page: Page; inputs: Inputs }) {
  return (
    <div className="mt-6">
      <h3 className="font-bold">What you asked about</h3>
      <dl className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-x-8 text-[0.9em]" data-testid="echo">
        {page.fields.map((field) => (
          <div key={field.name} className="card-line flex justify-between gap-3 py-1">
            <dt className="text-soft">{field.label}</dt>
            <dd className="text-right">{valueText(field, inputs[field.name])}</dd>
          </div>
        ))}
      </dl>
    </div>
  )
}
