/** Where visitors' answers are worked out: by this server, or in their own browsers. */
import { useState } from 'react'
import { faultText } from '../../api/faultText'
import { weightText } from '../../domain/format'
import type { Draft } from '../bench/useDraft'
import { RowsAlong } from './RowsAlong'
import { useBrowserPlan } from './queries'

const PLACES = [
  { name: 'server', words: 'By this server', about: 'you see how much it is asked, and visitors can say whether answers were right.' },
  {
    name: 'browser',
    words: 'In visitors’ browsers',
    about: 'what they enter never leaves their device, and you learn nothing of it, unless they let the server answer. Whoever opens the page gets the model itself, and can keep it.',
  },
] as const

export function AnswersIn({ draft }: { draft: Draft }) {
  const { demo, save } = draft
  const isInBrowser = demo.answers_in === 'browser'
  // What was chosen shows at once; the server is told behind it.
  const [chosen, setChosen] = useState<boolean | null>(null)
  const choose = (hasRows: boolean) => {
    setChosen(hasRows)
    save({ browser_rows: hasRows }).catch(() => setChosen(null))
  }
  const plan = useBrowserPlan(demo)
  const { obstacle, left_out: leftOut = [], n_rows: nRows = 0, has_rows: hasRows = false, n_sample: nSample = 0, bytes = 0 } = plan.data ?? {}
  return (
    <fieldset data-settings="answers-in" className="card-line mt-5 pt-4">
      <legend className="float-left w-full font-bold">Where answers are worked out</legend>
      {PLACES.map(({ name, words, about }) => (
        <label key={name} className="clear-both mt-2 flex items-start gap-2">
          <input
            type="radio"
            name="answers-in"
            className="mt-1 size-4 shrink-0 accent-(--glass)"
            checked={(demo.answers_in ?? 'server') === name}
            disabled={name === 'browser' && Boolean(obstacle) && !isInBrowser}
            onChange={() => void save({ answers_in: name })}
          />
          <span>
            {words}<span className="text-soft">: {about}</span>
          </span>
        </label>
      ))}
      {plan.error && <p className="mt-2 text-alert">{faultText(plan.error)}</p>}
      {obstacle && (
        <p className={`mt-2 max-w-[65ch] ${isInBrowser ? 'text-caution' : 'text-soft'}`}>
          {isInBrowser && '! This server answers all the same. '}
          {obstacle}
        </p>
      )}
      {isInBrowser && plan.data && !obstacle && (
        <div className="mt-2 space-y-2">
          <p>About {weightText(bytes)} go to each browser, once. On a slow line visitors are offered the server instead.</p>
          <RowsAlong nRows={nRows} nSample={nSample} hasRows={chosen ?? hasRows} who="whoever opens the page" onChoose={choose} />
          {leftOut.length > 0 && (
            <div className="text-soft">
              <p id="not-in-browser">What the page cannot do then:</p>
              <ul aria-labelledby="not-in-browser" className="list-disc pl-5">
                {leftOut.map((sentence) => (
                  <li key={sentence}>{sentence}</li>
                ))}
              </ul>
            </div>
          )}
        </div>
      )}
    </fieldset>
  )
}
