/** Where somebody's code failed: what it was called with, its lines with the one that failed marked, and the way there. */
export interface CodeLinesProps {
  text: string
}

/** The line that failed has an arrow before its number. */
const MARKED = /^> *\d+ {2}/

export function CodeLines({ text }: CodeLinesProps) {
  return (
    <pre className="mt-3 max-h-96 overflow-auto border border-line bg-paper p-3 text-[0.82em] font-normal text-ink" tabIndex={0} role="region" aria-label="Where it failed">
      {text.split('\n').map((line, index) => (
        <span key={index} className={MARKED.test(line) ? 'block bg-glass-pale font-bold' : 'block'}>
          {line || ' '}
        </span>
      ))}
    </pre>
  )
}
