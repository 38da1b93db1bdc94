/** The answer in short, at the top of a phone while the fields scroll under it. */
import type { ReactNode } from 'react'
import type { Page } from '../api/client'
import { HundredMarks } from '../parts/HundredMarks'
import { InlineMark, markOf } from '../parts/Mark'
import type { AnswerState } from './answerLine'
import { answerText } from './answerText'
import { isSeen } from './beside'

export interface AnswerStripProps {
  page: Page
  state: AnswerState
  onAsk: () => void
}

/** Shown below 900 px only; the whole answer stands under the fields. */
export function AnswerStrip({ page, state, onAsk }: AnswerStripProps) {
  return (
    <section
      aria-label="The answer in short"
      className="sticky top-0 z-10 -mx-5 border-b border-ink bg-paper px-5 py-3 min-[900px]:hidden"
    >
      <div className="flex items-center gap-3">
        {renderStrip(page, state)}
        {state.status === 'invitation' && !page.fields.some(isSeen) && (
          <button type="button" className="button-primary ml-auto shrink-0 text-[0.88em]" onClick={onAsk}>
            Show the answer
          </button>
        )}
      </div>
    </section>
  )
}

function renderStrip(page: Page, state: AnswerState): ReactNode {
  if (state.status === 'invitation' && page.fields.some(isSeen)) return <p className="text-[0.94em] text-soft">The answer will stand here.</p>
  if (state.status !== 'answered') return <p className="text-[0.94em] text-soft">{shortState(state)}</p>
  const { answer } = state.answer
  const toAll = (
    <a href="#answer" className="button-quiet text-[0.84em]">
      All of the answer
    </a>
  )
  if (answer.kind === 'class' && page.answer.kind === 'class') {
    const setting = page.answer
    const names = setting.classes.map((wording) => wording.name)
    const asMarks = setting.classes.length <= 4 && answer.probabilities.length > 0
    return (
      <>
        {asMarks && (
          <div className="w-16 shrink-0" aria-hidden="true">
            <HundredMarks answer={answer} setting={setting} />
          </div>
        )}
        <div className="min-w-0">
          <p className="text-[1.15em] leading-snug font-bold">{answer.headline}</p>
          <p className="flex flex-wrap items-baseline gap-x-2.5 text-[0.9em]">
            {answer.probabilities.slice(0, 4).map((item) => {
              const index = names.indexOf(item.class)
              return (
                <span key={item.class}>
                  {asMarks && <InlineMark {...markOf(index, setting.classes[index])} />} {item.of_100}
                  <span className="sr-only"> {item.label}</span>
                </span>
              )
            })}
            {answer.probabilities.length > 0 && <span className="text-soft">of 100</span>}
          </p>
          {toAll}
        </div>
      </>
    )
  }
  return (
    <div>
      <p className="text-[1.3em] leading-snug font-bold">
        {answer.kind === 'number' ? `${answer.text} ${answer.unit}` : answerText(page, answer)}
      </p>
      {toAll}
    </div>
  )
}

function shortState(state: AnswerState): string {
  switch (state.status) {
    case 'asking':
      return 'Asking the model…'
    case 'waiting':
      return `One moment… ${state.message}`
    case 'failed':
      return state.message
    case 'refused':
      return state.faults[0]?.message ?? 'Something is missing.'
    default:
      return 'Set what you know.'
  }
}
