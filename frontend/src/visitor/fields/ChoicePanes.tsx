/** A few options side by side. */
import { type ChoiceControlProps } from './choices'
import { FieldHead } from './FieldHead'
import { OptionBar } from './OptionBar'

/** The browser's own radio buttons, each as large as its pane: arrows move among them as everywhere. */
export function Panes({ label, options, value, ids, why, onChange }: ChoiceControlProps) {
  return (
    <div role="radiogroup" aria-labelledby={ids.label} aria-describedby={ids.describedBy} aria-invalid={ids.isInvalid}>
      <FieldHead
        why={why}
        label={
          <span id={ids.label} className="font-bold">
            {label}
          </span>
        }
      />
      <div className="flex flex-wrap gap-1.5">
        {options.map((option) => (
          <div key={String(option.value)} className="min-w-0 flex-1 basis-auto">
            <label className="relative flex min-h-10 items-center justify-center border border-line px-3 py-1 text-center transition-colors duration-150 hover:border-edge has-checked:border-glass has-checked:bg-glass-pale has-checked:font-bold">
              <input
                type="radio"
                name={ids.control}
                className="absolute inset-0 m-0 cursor-pointer appearance-none"
                checked={option.value === value}
                onChange={() => onChange(option.value)}
              />
              {option.label}
            </label>
            <div data-place="ribbon" className="flow-root min-h-6">
              {why && <OptionBar why={why} value={option.value} isChosen={option.value === value} />}
            </div>
          </div>
        ))}
      </div>
    </div>
  )
}
