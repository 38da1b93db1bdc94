/** One of a few settings, chosen from a list. */

interface ChoiceProps<Value extends string> {
  label: string
  value: Value
  options: readonly { value: Value; label: string }[]
  onChange: (value: Value) => void
  className?: string
}

export function Choice<Value extends string>({ label, value, options, onChange, className = '' }: ChoiceProps<Value>) {
  return (
    <label className={`block ${className}`}>
      <span className="block text-soft">{label}</span>
      <select aria-label={label} className="w-full border-b border-edge bg-paper py-0.5" value={value} onChange={(event) => onChange(event.target.value as Value)}>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
    </label>
  )
}
