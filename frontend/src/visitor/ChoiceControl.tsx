/** One of several options: panes side by side while they are few, a list when they are many. */
import { Label, Radio, RadioGroup } from '@headlessui/react'
import type { InputValue } from '../api/client'
import { FieldHead } from './FieldHead'
import type { ControlIds } from './FieldRow'
import { OptionBar } from './OptionBar'
import { answerWords, curveAt, type FieldWhy } from './why'

/** More options than this, or longer words than fit in a pane, go into a list. */
const MAX_PANES = 5
const MAX_PANE_CHARACTERS = 56

export interface ChoiceOption {
  value: string | number | boolean
  label: string
}

export interface ChoiceControlProps {
  label: string
  options: ChoiceOption[]
  /** Null for "not known". */
  value: InputValue
  ids: ControlIds
  why: FieldWhy | null
  onChange: (value: InputValue) => void
}

export function ChoiceControl(props: ChoiceControlProps) {
  const characters = props.options.reduce((sum, option) => sum + option.label.length, 0)
  return props.options.length <= MAX_PANES && characters <= MAX_PANE_CHARACTERS ? <Panes {...props} /> : <List {...props} />
}

function Panes({ label, options, value, ids, why, onChange }: ChoiceControlProps) {
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
            <div data-place="ribbon" className="min-h-6">
              {why && <OptionBar why={why} value={option.value} isChosen={option.value === value} />}
            </div>
          </div>
        ))}
      </div>
    </RadioGroup>
  )
}

function List({ label, options, value, ids, why, onChange }: ChoiceControlProps) {
  const at = options.findIndex((option) => option.value === value)
  return (
    <>
      <FieldHead
        why={why}
        label={
          <label id={ids.label} htmlFor={ids.control} className="font-bold">
            {label}
          </label>
        }
      />
      <select
        id={ids.control}
        className="min-h-10 w-full border border-edge bg-paper px-2"
        value={at}
        aria-describedby={ids.describedBy}
        aria-invalid={ids.isInvalid}
        onChange={(event) => onChange(options[Number(event.target.value)]?.value ?? null)}
      >
        {at < 0 && <option value={-1}>not known</option>}
        {options.map((option, index) => (
          <option key={String(option.value)} value={index}>
            {option.label}
            {why?.curve ? optionWords(why, option.value) : ''}
          </option>
        ))}
      </select>
    </>
  )
}

/** In a list there is no room for bars: what the answer would be stands behind each option. */
function optionWords(why: FieldWhy, value: InputValue): string {
  const y = why.curve ? curveAt(why.curve, value) : null
  return y === null ? '' : ` (${answerWords(y, why.scale)})`
}
