/** What visitors asked, the newest first, with what they entered where the author keeps it. */
import { useState } from 'react'
import type { DemoState } from '../../api/client'
import { agoText, groupedText, valueText } from '../../domain/format'
import { Problem } from '../bench/Problem'
import { useLog } from '../bench/queries'
import { AskAgain } from './AskAgain'
import { useForgetInputs } from './queries'
import { UseWords } from './UseWords'
import { useNow } from '../../parts/useNow'

const OUTCOMES: Record<string, string> = {
  answered: 'answered',
  failed: 'the model failed',
  overran: 'took too long',
  refused: 'refused',
  unavailable: 'not ready',
}

export function LogSheet({ demo }: { demo: DemoState }) {
  const [isOpen, setIsOpen] = useState(false)
  const log = useLog(demo.slug, isOpen)
  const now = useNow()
  return (
    <details className="card-line mt-5 pt-4" onToggle={(event) => setIsOpen(event.currentTarget.open)} data-testid="log">
      <summary className="font-bold">What was asked</summary>
      <UseWords demo={demo} isWanted={isOpen} />
      <Problem error={log.error} />
      {log.data && (
        <>
          <p className="mt-1 text-soft">
            {log.data.total === 0 ? 'Nothing yet.' : `${groupedText(log.data.total)} in all; the last ${log.data.entries.length} here.`}{' '}
            {!demo.record_inputs && 'What visitors enter is not kept.'} {calledWords(log.data)}{' '}
            {log.data.total > 0 && (
              <a className="button-quiet" href={`/api/v1/demos/${demo.slug}/log.csv`}>
                All of it as CSV
              </a>
            )}{' '}
            <ForgetInputs demo={demo} hasInputs={log.data.entries.some((entry) => entry.inputs)} />
          </p>
          <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="What was asked, as a table">
            <table className="mt-1 text-left whitespace-nowrap">
              <tbody>
                {log.data.entries.map((entry) => (
                  <tr key={entry.id} className="border-t border-line">
                    <td className="py-0.5 pr-4">{agoText(entry.at, now)}</td>
                    <td className="py-0.5 pr-4">{entry.by_author ? 'you' : 'a visitor'}</td>
                    <td className={`py-0.5 pr-4 ${entry.outcome === 'answered' ? '' : 'text-caution'}`}>{OUTCOMES[entry.outcome] ?? entry.outcome}</td>
                    <td className="py-0.5 pr-4 text-soft">{entry.milliseconds.toFixed(0)} ms</td>
                    <td className="py-0.5 pr-4">
                      {entry.inputs && <AskAgain slug={demo.slug} call={entry.id} />}
                      {entry.inputs ? inputWords(demo, entry.inputs) : ''}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </details>
  )
}

/** Two presses: what was kept is gone for good. */
function ForgetInputs({ demo, hasInputs }: { demo: DemoState; hasInputs: boolean }) {
  const forget = useForgetInputs(demo.slug)
  const [isAsked, setIsAsked] = useState(false)
  if (!hasInputs) return null
  return (
    <button
      type="button"
      className="button-quiet"
      disabled={forget.isPending}
      onBlur={() => setIsAsked(false)}
      onClick={() => (isAsked ? forget.mutate(undefined, { onSettled: () => setIsAsked(false) }) : setIsAsked(true))}
    >
      {isAsked ? 'Delete what was entered, for good' : 'Delete what was entered'}
    </button>
  )
}

/** What visitors said of the answers. */
function calledWords({ called_right, called_wrong }: { called_right?: number; called_wrong?: number }): string {
  const [right, wrong] = [called_right ?? 0, called_wrong ?? 0]
  return right + wrong === 0 ? '' : `Of ${right + wrong} answers that visitors spoke of, ${right} ${right === 1 ? 'was' : 'were'} right.`
}

function inputWords(demo: DemoState, inputs: Record<string, unknown>): string {
  return demo.fields
    .filter((field) => field.name in inputs)
    .map((field) => `${field.label} ${valueText(field, inputs[field.name] as string)}`)
    .join(', ')
}
