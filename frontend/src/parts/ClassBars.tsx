/** The likeliest classes as named bars, for demos with more than four. */
import type { ClassAnswer } from '../api/client'

export const BARS_SHOWN = 5

/** The five likeliest; the rest in one line. */
export function ClassBars({ answer }: { answer: ClassAnswer }) {
  const shown = answer.probabilities.slice(0, BARS_SHOWN)
  const rest = answer.probabilities.slice(BARS_SHOWN)
  const restOf100 = rest.reduce((sum, item) => sum + item.of_100, 0)
  return (
    <div>
      <ul className="space-y-2">
        {shown.map((item, index) => (
          <li key={item.class} className="grid grid-cols-[minmax(6rem,2fr)_5fr_2.5rem] items-center gap-3">
            <span className={index === 0 ? 'font-bold' : ''}>{item.label}</span>
            <span className="h-3 border-b border-line" aria-hidden="true">
              <span
                className={`block h-3 transition-[width] duration-150 ${index === 0 ? 'bg-glass' : 'bg-edge'}`}
                style={{ width: `${item.probability * 100}%` }}
              />
            </span>
            <span className="text-right">
              {item.of_100}
              <span className="sr-only"> of 100</span>
            </span>
          </li>
        ))}
      </ul>
      {rest.length > 0 && (
        <p className="mt-2 text-soft">
          and {rest.length} more, together {restOf100} of 100
        </p>
      )}
    </div>
  )
}
