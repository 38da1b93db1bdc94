/** A few options side by side. */
import { Label, Radio, RadioGroup } from '@headlessui/react'
import { type ChoiceControlProps } from './choices'
import { FieldHead } from './FieldHead'
import { OptionBar } from './OptionBar'

export function Panes({ label, options, value, ids, why, onChange }: ChoiceControlProps) {
  return (
    <RadioGroup value={value} onChange={onChange} aria-describedby={ids.describedBy} aria-invalid={ids.isInvalid}>
      <FieldHead why={why} label={<Label className="font-bold">{label}</Label>} />
      <div className="flex flex-wrap gap-1.5">
        {options.map((option) => (
          <div key={String(option.value)} className="min-w-0 flex-1 basis-auto">
            <Radio
              value={option.value}
              className="flex min-h-10 items-center justify-center border border-line px-3 py-1 text-center transition-colors duration-150 hover:border-edge data-checked:border-glass data-checked:bg-glass-pale data-checked:font-bold"
            >
              {option.label}
            </Radio>
            <div data-place="ribbon" className="flow-root min-h-6">
              {why && <OptionBar why={why} value={option.value} isChosen={option.value === value} />}
            </div>
          </div>
        ))}
      </div>
    </RadioGroup>
  )
}
