/** What is done to build libraries, line by line as it happens; the newest stays in sight. */
import { useEffect, useRef } from 'react'

export function BuildLog({ lines }: { lines: string[] }) {
  const box = useRef<HTMLPreElement>(null)
  useEffect(() => {
    box.current?.scrollTo({ top: box.current.scrollHeight })
  }, [lines.length])
  return (
    <pre ref={box} className="mt-3 max-h-60 overflow-auto border border-line bg-paper p-3 text-[0.85em] font-normal whitespace-pre-wrap" tabIndex={0} role="log" aria-label="What is done">
      {lines.length > 0 ? lines.join('\n') : 'It begins in a moment.'}
    </pre>
  )
}
