/** Under one option of a choice: what the answer would be with it. */
import type { InputValue } from '../../api/client'
import { amountText, answerWords, curveAt, type FieldWhy } from '../../domain/why'

export interface OptionBarProps {
  why: FieldWhy
  value: InputValue
  isChosen: boolean
}

export function OptionBar({ why, value, isChosen }: OptionBarProps) {
  const y = why.curve ? curveAt(why.curve, value) : null
  if (y === null) return null
  const share = Math.max(0, Math.min(1, (y - why.domain[0]) / (why.domain[1] - why.domain[0] || 1)))
  const amount = amountText(y, why.scale)
  return (
    <div className="mt-1 flex items-center gap-1.5 text-[0.8em] text-soft">
      {/* As long a track under every option, however wide its pane: bars are there to be compared. */}
      <span className="drawn h-1.5 w-11" aria-hidden="true">
        <span
          className={`block h-full ${isChosen ? 'bg-glass' : 'bg-edge opacity-60'}`}
          style={{ width: `${Math.max(share * 100, 2)}%` }}
        />
      </span>
      <span aria-hidden="true">{amount}</span>
      <span className="sr-only">
        With this: {answerWords(y, why.scale)} ({why.of}).
      </span>
    </div>
  )
}
