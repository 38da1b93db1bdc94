/** Where a number lies between the lowest and the highest outcome the model learned from. */
import { numberText } from './format'

export interface NumberScaleProps {
  value: number
  low: number
  high: number
  unit: string
}

export function NumberScale({ value, low, high, unit }: NumberScaleProps) {
  const share = high > low ? Math.min(1, Math.max(0, (value - low) / (high - low))) : 0.5
  const text = `${numberText(low)} to ${numberText(high)}${unit ? ` ${unit}` : ''}`
  return (
    <div className="mt-4" role="img" aria-label={`On a scale of the cases the model learned from, ${text}`}>
      <div className="relative h-5 border-b-2 border-edge">
        <span
          className="absolute bottom-0 h-5 w-1 -translate-x-1/2 bg-glass transition-[left] duration-150"
          style={{ left: `${share * 100}%` }}
        />
      </div>
      <div className="mt-1 flex justify-between text-[0.82em] text-soft">
        <span>{numberText(low)}</span>
        <span>cases the model learned from</span>
        <span>{numberText(high)}</span>
      </div>
    </div>
  )
}
