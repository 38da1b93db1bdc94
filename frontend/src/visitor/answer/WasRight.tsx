/** "Was this right?": one quiet line under the answer, which says what is kept. */
import { useState } from 'react'
import { api, ApiError, expectData, type Page, type PredictionAnswer } from '../../api/client'
import { readNumber } from '../../domain/formState'

export interface WasRightProps {
  page: Page
  answer: PredictionAnswer
}

type Said = { status: 'no' } | { status: 'wrong' } | { status: 'kept'; right: boolean } | { status: 'failed'; message: string }

export function WasRight({ page, answer }: WasRightProps) {
  // Each answer is asked about by itself; what was said of one does not stand beside the next.
  return answer.id ? <AboutOne key={answer.id} page={page} id={answer.id} /> : null
}

function AboutOne({ page, id }: { page: Page; id: string }) {
  const [said, setSaid] = useState<Said>({ status: 'no' })
  const asksTruth = page.parts.truth && (page.answer.kind === 'class' || page.answer.kind === 'number')
  const say = async (right: boolean, truth?: string | number) => {
    try {
      const params = { path: { slug: page.slug, answer: id } }
      await expectData(api.POST('/api/v1/demos/{slug}/predictions/{answer}/outcome', { params, body: { right, ...(truth === undefined ? {} : { truth }) } }))
      setSaid(right || !asksTruth || truth !== undefined ? { status: 'kept', right } : { status: 'wrong' })
    } catch (error) {
      setSaid({ status: 'failed', message: error instanceof ApiError ? error.message : 'It could not be sent.' })
    }
  }
  return (
    <div className="basis-full" role="group" aria-label="Was this right?" tabIndex={-1}>
      <p className="flex flex-wrap items-baseline gap-x-3 text-soft" role={said.status === 'no' ? undefined : 'status'}>
        {said.status === 'kept' ? (
          `Thank you. Kept: your “${said.right ? 'yes' : 'no'}”, the answer and the time${page.records_inputs ? '' : ', nothing you entered'}.`
        ) : said.status === 'wrong' ? (
          'What was it really?'
        ) : (
          <>
            Was this right?
            {said.status === 'failed' && <span className="text-alert">✕ {said.message}</span>}
          </>
        )}
        {said.status !== 'kept' && said.status !== 'wrong' && (
          <>
            <button type="button" className="button-quiet min-h-6 min-w-6" onClick={() => void say(true)}>
              Yes
            </button>
            <button type="button" className="button-quiet min-h-6 min-w-6" onClick={() => void say(false)}>
              No
            </button>
          </>
        )}
      </p>
      {said.status === 'wrong' && <Truth page={page} onTruth={(truth) => void say(false, truth)} onLeave={() => setSaid({ status: 'kept', right: false })} />}
    </div>
  )
}

interface TruthProps {
  page: Page
  onTruth: (truth: string | number) => void
  onLeave: () => void
}

/** What it really was: a class to choose or a number to type. */
function Truth({ page, onTruth, onLeave }: TruthProps) {
  const [text, setText] = useState('')
  const { answer } = page
  const number = answer.kind === 'number' ? readNumber({ unit: answer.unit }, text) : null
  const truth = answer.kind === 'number' ? number : text || null
  return (
    <form
      className="mt-1 flex flex-wrap items-baseline gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (truth !== null) onTruth(truth)
      }}
    >
      {answer.kind === 'class' ? (
        <select aria-label="What it really was" className="border-b border-edge bg-paper py-0.5" value={text} onChange={(event) => setText(event.target.value)}>
          <option value="">choose</option>
          {answer.classes.map((wording) => (
            <option key={wording.name} value={wording.name}>
              {wording.label}
            </option>
          ))}
        </select>
      ) : (
        <label>
          <input aria-label="What it really was" className="input-line w-24 text-right" inputMode="decimal" value={text} onChange={(event) => setText(event.target.value)} />{' '}
          {answer.kind === 'number' && answer.unit}
        </label>
      )}
      <button type="submit" className="button-plain py-0.5" aria-disabled={truth === null}>
        Say so
      </button>
      <button type="button" className="button-quiet" onClick={onLeave}>
        I don’t know
      </button>
    </form>
  )
}
