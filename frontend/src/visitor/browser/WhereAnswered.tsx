/** Where answers are worked out, in a line under the title: in this browser, or by its visitor's word by the server. */
import { useState, useSyncExternalStore } from 'react'
import type { Page } from '../../api/client'
import { weightText } from '../../domain/format'
import { ownAnswers, type Whereabouts } from './ownAnswers'
import type { Progress } from './fetching'

export interface WhereAnsweredProps {
  page: Page
  /** Who answers is another now: what the page shows of that is looked at anew. */
  onChanged: () => void
}

/** A wait that is offered a way out. */
const LONG_SECONDS = 6

export default function WhereAnswered({ page, onChanged }: WhereAnsweredProps) {
  const now = useSyncExternalStore(ownAnswers.subscribe, ownAnswers.read)
  const [isAsking, setIsAsking] = useState(false)
  const toServer = () => {
    setIsAsking(false)
    ownAnswers.letServerAnswer()
    onChanged()
  }
  const toBrowser = () => {
    ownAnswers.answerHere()
    onChanged()
  }
  const isTrouble = now.is === 'failed' || now.is === 'asks'
  return (
    <section aria-label="Who answers" data-testid="where-answered" className={`mb-2 min-h-[4.2rem] text-[0.92em] min-[900px]:min-h-[2.4rem] print:hidden ${isTrouble ? 'border-l-3 border-caution pl-4' : 'text-soft'}`}>
      <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <span role="status">{wordsOf(now, page)}</span>
        {now.is === 'fetching' && <HowFar progress={now.progress} />}
        {now.is === 'failed' && (
          <button type="button" className="button-quiet" onClick={() => ownAnswers.fetch()}>
            Try again
          </button>
        )}
        {now.is === 'asks' && (
          <button type="button" className="button-quiet" onClick={() => ownAnswers.fetch()}>
            Fetch it
          </button>
        )}
        {now.is === 'server' ? (
          <button type="button" className="button-quiet" onClick={toBrowser}>
            Answer in this browser instead
          </button>
        ) : (
          !isAsking &&
          offersServer(now) && (
            <button type="button" className="button-quiet" onClick={() => setIsAsking(true)}>
              Let the server answer
            </button>
          )
        )}
      </p>
      {isAsking && now.is !== 'server' && (
        <p className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-ink" role="group" aria-label="Let the server answer">
          <span>The server then gets what you enter. {keepingWords(page)}</span>
          <button type="button" className="button-quiet" onClick={toServer}>
            Let it answer
          </button>
          <button type="button" className="button-quiet" onClick={() => setIsAsking(false)}>
            Stay here
          </button>
        </p>
      )}
    </section>
  )
}

/** While it is on its way there is nothing to leave, unless that takes long. */
function offersServer(now: Whereabouts): boolean {
  return now.is !== 'fetching' || (now.progress.secondsLeft ?? 0) > LONG_SECONDS
}

function wordsOf(now: Whereabouts, { browser }: Page): string {
  switch (now.is) {
    case 'asks':
      return `Answers are worked out in your browser, so that nothing you enter leaves this device. That takes the model: ${weightText(browser?.bytes ?? 0)} to fetch.`
    case 'fetching':
      return 'Answers are worked out in your browser: nothing you enter leaves this device. The model is on its way.'
    case 'open':
      return 'Answers are worked out in your browser: nothing you enter leaves this device.'
    case 'failed':
      return `! Answers cannot be worked out in your browser just now. ${now.why} What you enter stays on this device meanwhile.`
    case 'server':
      return 'The server answers, and gets what you enter, as you chose.'
  }
}

/** What the server does with what it gets, before it gets anything. */
function keepingWords(page: Page): string {
  return page.records_inputs ? `It is kept for the author of this page, for ${page.record_days} days.` : 'It is not kept; how many cases lie where is counted, field by field.'
}

function HowFar({ progress: { got, total, secondsLeft } }: { progress: Progress }) {
  return (
    <span className="whitespace-nowrap">
      <progress className="mr-2 w-24 align-middle accent-(--glass)" aria-label="The model on its way" value={got} max={Math.max(total, 1)} />
      {weightText(got)} of {weightText(total)}
      {secondsLeft !== null && Number.isFinite(secondsLeft) && secondsLeft > LONG_SECONDS && `, about ${Math.round(secondsLeft)} s to go`}
    </span>
  )
}
