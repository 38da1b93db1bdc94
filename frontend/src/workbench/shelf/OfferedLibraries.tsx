/** Libraries with which a model that did not open might: what its file says of itself, or what it looked for. */
import { ApiError } from '../../api/client'

interface OfferedLibrariesProps {
  error: unknown
  /** Requirements that came along already, if any. */
  given: string
  onTold: (words: Record<string, string>) => void
}

export function OfferedLibraries({ error, given, onTold }: OfferedLibrariesProps) {
  const offered = error instanceof ApiError ? (error.problem.requirements ?? []) : []
  if (offered.length === 0) return null
  const whole = [given.trim(), ...offered].filter(Boolean).join('\n')
  return (
    <div className="mt-3">
      <p className="font-bold">Let it run with libraries of its own?</p>
      <p className="mt-1 max-w-[65ch] text-soft">
        {given.trim() ? 'To what it asks for already this is added: ' : 'The file tells these: '}
        {offered.map((line, at) => (
          <span key={line}>
            {at > 0 && ', '}
            <code className="text-ink">{line}</code>
          </span>
        ))}
        . They are fetched from the package index and installed once, which takes a minute or more. What the file does not tell stays open: see that its answers are those of your notebook.
      </p>
      <button type="button" className="button-plain mt-2" onClick={() => onTold({ requirements: whole })}>
        Build them and open it
      </button>
    </div>
  )
}
