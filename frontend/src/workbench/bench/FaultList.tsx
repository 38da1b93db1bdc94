/** Faults, each at the name of what it is about. */
import { type FieldProblem } from '../../api/client'

const CHARACTERS_SHOWN = 600

export function FaultList({ faults }: { faults: FieldProblem[] }) {
  return (
    <ul className="mt-1 space-y-1">
      {faults.map((fault) => (
        <li key={`${fault.field} ${fault.message}`}>
          <Folded text={fault.message} />
        </li>
      ))}
    </ul>
  )
}

export function Folded({ text }: { text: string }) {
  if (text.length <= CHARACTERS_SHOWN) return <>{text}</>
  return (
    <>
      {text.slice(0, CHARACTERS_SHOWN)}…
      <details className="font-normal">
        <summary className="button-quiet w-fit">All of it</summary>
        <span className="break-words">{text}</span>
      </details>
    </>
  )
}
