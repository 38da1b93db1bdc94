/** What went wrong, readable whatever its length: a sentence, the lines to run, the faults one by one, the rest folded. */
import { ApiError, type FieldProblem } from '../../api/client'
import { CodeLines } from '../../parts/CodeLines'
import { Lines } from '../share/Lines'
import { FaultList, Folded } from './FaultList'

/** So many faults stand open; a thousand column names do not. */
const FAULTS_SHOWN = 6

export interface ProblemProps {
  error: unknown
}

export function Problem({ error }: ProblemProps) {
  if (!error) return null
  const faults = error instanceof ApiError ? (error.problem.errors ?? []) : []
  const traceback = error instanceof ApiError ? error.problem.traceback : null
  const message = error instanceof Error ? error.message : 'Something went wrong. Try again.'
  const [sentence = '', lines] = parted(faults.length === 1 && faults[0] ? faults[0].message : message)
  return (
    <div role="alert" className="text-alert">
      <p className="font-bold">
        <span aria-hidden="true">✕ </span>
        <Folded text={sentence} />
      </p>
      {lines && <Lines label="Lines to run" text={lines} />}
      {traceback && <CodeLines text={traceback} />}
      {faults.length > 1 && <Faults faults={faults} />}
    </div>
  )
}

/** A message and, behind an empty line, what is to be run. */
export function parted(message: string): [string, string | null] {
  const at = message.indexOf('\n\n')
  return at < 0 ? [message, null] : [message.slice(0, at), message.slice(at + 2)]
}

function Faults({ faults }: { faults: FieldProblem[] }) {
  const rest = faults.slice(FAULTS_SHOWN)
  return (
    <>
      <FaultList faults={faults.slice(0, FAULTS_SHOWN)} />
      {rest.length > 0 && (
        <details className="mt-1">
          <summary className="button-quiet w-fit">and {rest.length} more</summary>
          <FaultList faults={rest} />
        </details>
      )}
    </>
  )
}
