/** What is wrong with a file that was sent, each thing by itself. */
import { ApiError } from '../api/client'
import { plainText } from './table/tableWords'

export function Faults({ error }: { error: Error | null }) {
  if (!error) return null
  const faults = error instanceof ApiError ? (error.problem.errors ?? []) : []
  return (
    <div role="alert" className="mt-2 text-alert">
      {faults.length > 0 ? faults.map((fault) => <p key={`${fault.field}${fault.message}`}>{plainText(fault.message)}</p>) : <p>{plainText(error.message)}</p>}
    </div>
  )
}
