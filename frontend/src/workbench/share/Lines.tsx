/** Lines to copy: shown as they are, taken along by one press. */
import { useState } from 'react'

export interface LinesProps {
  label: string
  text: string
}

export function Lines({ label, text }: LinesProps) {
  const [copied, setCopied] = useState('')
  const copy = () => {
    void navigator.clipboard?.writeText(text).then(() => setCopied(text))
  }
  return (
    <div className="mt-2 text-ink">
      <div className="flex items-baseline justify-between gap-4">
        <span className="text-soft">{label}</span>
        <button type="button" className="button-quiet" aria-label={`Copy ${label}`} onClick={copy}>
          <span role="status">{copied === text ? 'Copied' : 'Copy'}</span>
        </button>
      </div>
      <pre className="overflow-x-auto border border-line p-3 text-[0.85em] font-normal whitespace-pre" tabIndex={0} aria-label={label}>
        {text}
      </pre>
    </div>
  )
}
