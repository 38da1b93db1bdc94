/** What the server notes of a case, and why it gave no answer. */
import type { FieldProblem, Note } from '../../api/client'

export function Refused({ faults }: { faults: FieldProblem[] }) {
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

export function AnswerNotes({ notes }: { notes: Note[] }) {
  // What is about one field is said at that field.
  const shown = notes.filter((note) => note.field === null)
  if (shown.length === 0) return null
  return (
    <ul className="mt-3 space-y-1 text-[0.92em] text-caution">
      {shown.map((note) => (
        <li key={note.message}>
          <span aria-hidden="true">! </span>
          {note.message}
        </li>
      ))}
    </ul>
  )
}
