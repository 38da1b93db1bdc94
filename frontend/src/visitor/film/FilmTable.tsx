/** The film in words: from when to when the same is said. Each line jumps there. */
import { useMemo, useState } from 'react'
import type { AnswerSetting, FilmFrame, FilmRow } from '../../api/client'
import { clockText, stretches, type Seen } from '../../domain/films'

export interface FilmTableProps {
  setting: AnswerSetting
  rows: FilmRow[]
  frames: FilmFrame[]
  seen: Seen
  onJump: (seconds: number) => void
}

/** More lines than anybody reads; the CSV has them all. */
const MOST_LINES = 200

export function FilmTable({ setting, rows, frames, seen, onJump }: FilmTableProps) {
  const [isOpen, setIsOpen] = useState(false)
  const lines = useMemo(() => (isOpen ? stretches(setting, rows, frames, seen) : []), [isOpen, setting, rows, frames, seen])
  return (
    <details className="mt-2" onToggle={({ currentTarget }) => setIsOpen(currentTarget.open)}>
      <summary className="cursor-pointer">The film in words</summary>
      <ol className="mt-1 max-h-72 overflow-y-auto" tabIndex={0} aria-label="What is said, from when on">
        {lines.slice(0, MOST_LINES).map((line) => (
          <li key={line.from}>
            <button type="button" className="flex w-full gap-3 py-0.5 text-left" onClick={() => onJump(line.from)}>
              <span className="min-w-[6.5rem] text-soft tabular-nums">{line.until === null ? `from ${clockText(line.from)}` : `${clockText(line.from)} to ${clockText(line.until)}`}</span>
              <span className="min-w-0 break-words">{line.words}</span>
            </button>
          </li>
        ))}
      </ol>
      {lines.length > MOST_LINES && <p className="text-soft">And {lines.length - MOST_LINES} more, in the table to save.</p>}
    </details>
  )
}
