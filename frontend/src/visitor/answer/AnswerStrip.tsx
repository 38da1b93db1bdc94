/** The answer in short, at the top of a phone while the fields scroll under it. Its room is the same whatever it says. */
import { useContext, useSyncExternalStore, type ReactNode } from 'react'
import type { Page } from '../../api/client'
import { ToneSign } from '../../parts/ToneSign'
import { HundredMarks } from '../../parts/HundredMarks'
import { InlineMark, markOf } from '../../parts/Mark'
import type { AnswerState } from '../case/answerLine'
import { fadeOf } from '../case/late'
import { answerText } from '../../domain/answerText'
import { foundWords } from '../../domain/boxes'
import { isSeen } from '../../domain/kinds'
import { MAX_CLASSES_AS_MARKS } from './ClassAnswer'
import { jump } from '../page/focus'
import { BoxesContext, type BoxesView } from '../pictures/boxesView'

export interface AnswerStripProps {
  page: Page
  state: AnswerState
  isLate: boolean
  onAsk: () => void
}

/** Shown below 900 px only; the whole answer stands under the fields. */
export function AnswerStrip(props: AnswerStripProps) {
  // On a desk it is not there at all: its marks would be drawn for nobody with every step of a drag.
  const isNarrow = useSyncExternalStore(followWidth, () => NARROW.matches)
  return isNarrow ? <Strip {...props} /> : null
}

const NARROW = window.matchMedia('(max-width: 899px)')

function followWidth(onChange: () => void): () => void {
  NARROW.addEventListener('change', onChange)
  return () => NARROW.removeEventListener('change', onChange)
}

function Strip({ page, state, isLate, onAsk }: AnswerStripProps) {
  const boxes = useContext(BoxesContext)
  const isHeld = state.status === 'answered' && state.isHeld === true
  const canAsk = isHeld || (state.status === 'invitation' && !page.fields.some(isSeen)) || state.status === 'waiting' || state.status === 'failed'
  return (
    <section aria-label="The answer in short" className="strip sticky top-0 z-10 -mx-5 border-b border-ink bg-paper px-5 print:hidden">
      <div className={`flex size-full items-center gap-3 ${fadeOf(state, isLate)}`}>
        {renderStrip(page, state, isLate, boxes)}
        {canAsk && (
          <button type="button" className="button-primary ml-auto shrink-0 text-[0.88em]" onClick={onAsk}>
            {state.status === 'invitation' || isHeld ? 'Show the answer' : 'Try again'}
          </button>
        )}
      </div>
    </section>
  )
}

/** What the boxes that are shown come to, as the answer itself has it. */
function shownText({ shown, setting }: BoxesView): string {
  return foundWords(shown.length, setting.noun ?? 'things', setting.noun_one ?? 'thing')
}

function renderStrip(page: Page, state: AnswerState, isLate: boolean, boxes: BoxesView | null): ReactNode {
  if (state.status === 'invitation' && page.fields.some(isSeen)) return <p className="text-[0.94em] text-soft">The answer will stand here.</p>
  if (state.status !== 'answered') return <p className="line-clamp-3 min-w-0 text-[0.9em] leading-snug text-soft">{shortState(state)}</p>
  const { answer } = state.answer
  const toAll = (
    <a href="#answer" onClick={jump} className="button-quiet inline-block py-0.5! text-[0.84em]">
      {isLate ? (state.isHeld || state.delay !== undefined ? 'The answer before' : 'The new answer is on its way') : toAllWords(page)}
    </a>
  )
  if (answer.kind !== 'class' || page.answer.kind !== 'class') {
    return (
      <div className="min-w-0">
        <p className="line-clamp-2 text-[1.2em] leading-tight font-bold">{boxes ? shownText(boxes) : answerText(page, answer)}</p>
        {answer.kind === 'number' && answer.band && (
          <p className="truncate text-[0.94em]">
            <ToneSign tone={answer.band.tone ?? ''} /> {answer.band.label}
          </p>
        )}
        {toAll}
      </div>
    )
  }
  const setting = page.answer
  const names = setting.classes.map((wording) => wording.name)
  const asMarks = setting.classes.length <= MAX_CLASSES_AS_MARKS && answer.probabilities.length > 0
  return (
    <>
      {asMarks && (
        <div className="w-16 shrink-0" aria-hidden="true">
          <HundredMarks answer={answer} setting={setting} />
        </div>
      )}
      <div className="min-w-0 flex-1">
        <p className="truncate text-[1.12em] leading-snug font-bold">{answer.headline}</p>
        <p className="line-clamp-2 text-[0.84em] leading-tight">
          {answer.probabilities.filter((item) => item.of_100 > 0).slice(0, MAX_CLASSES_AS_MARKS).map((item, at) => {
            const index = names.indexOf(item.class)
            return (
              <span key={item.class}>
                {at > 0 && <span className="text-soft"> · </span>}
                {asMarks && <InlineMark {...markOf(index, setting.classes[index])} />} {item.of_100} {item.label}
              </span>
            )
          })}
        </p>
        {toAll}
      </div>
    </>
  )
}

function toAllWords({ parts }: Page): string {
  if (!parts.contributions) return 'All of the answer'
  return parts.changes ? 'Why, and what would change it' : 'Why'
}

function shortState(state: AnswerState): string {
  switch (state.status) {
    case 'asking':
      return 'Asking the model…'
    case 'waiting':
    case 'failed':
      return state.message
    case 'refused':
      return state.faults[0]?.message ?? 'Something is missing.'
    default:
      return 'Set what you know.'
  }
}
