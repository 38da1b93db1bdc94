/** One of several options: panes side by side while they are few, a list when they are many. */
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions, Label, Radio, RadioGroup } from '@headlessui/react'
import { useMemo, useState } from 'react'
import type { InputValue } from '../api/client'
import { FieldHead } from './FieldHead'
import type { ControlIds } from './FieldRow'
import { OptionBar } from './OptionBar'
import { answerWords, curveAt, type FieldWhy } from './why'

/** More options than this, or longer words than fit in a pane, go into a list. */
const MAX_PANES = 5
const MAX_PANE_CHARACTERS = 56
/** More than this are searched rather than looked through. */
const MAX_LISTED = 15
/** So many are shown of what a search finds. */
const MAX_FOUND = 100

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
  if (props.options.length > MAX_LISTED) return <SearchedList {...props} />
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

/** Many options: typed for. What begins with the words comes first, then what has them. */
function SearchedList({ label, options, value, ids, why, onChange }: ChoiceControlProps) {
  const [query, setQuery] = useState('')
  const chosen = options.find((option) => option.value === value) ?? null
  const found = useMemo(() => searched(options, query), [options, query])
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
      <Combobox value={chosen} onChange={(option) => option && onChange(option.value)} onClose={() => setQuery('')} immediate>
        <ComboboxInput
          id={ids.control}
          className="min-h-10 w-full border border-edge bg-paper px-2"
          autoComplete="off"
          placeholder="not known"
          aria-describedby={ids.describedBy}
          aria-invalid={ids.isInvalid}
          displayValue={(option: ChoiceOption | null) => option?.label ?? ''}
          onChange={(event) => setQuery(event.target.value)}
        />
        <ComboboxOptions anchor="bottom start" className="z-20 max-h-72 w-(--input-width) overflow-y-auto border border-edge bg-paper empty:invisible">
          {found.slice(0, MAX_FOUND).map((option) => (
            <ComboboxOption key={String(option.value)} value={option} className="cursor-pointer px-2 py-1.5 data-focus:bg-glass-pale data-selected:font-bold">
              {option.label}
              {why?.curve && <span className="text-soft">{optionWords(why, option.value)}</span>}
            </ComboboxOption>
          ))}
          {found.length === 0 && <div className="px-2 py-1.5 text-soft">None of the {options.length} is called so.</div>}
          {found.length > MAX_FOUND && <div className="px-2 py-1.5 text-soft">and {found.length - MAX_FOUND} more; type to find one</div>}
        </ComboboxOptions>
      </Combobox>
    </>
  )
}

/** Options whose words begin with what was typed, then those that have it anywhere; accents do not matter. */
export function searched(options: ChoiceOption[], query: string): ChoiceOption[] {
  const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
  const wanted = plain(query.trim())
  if (!wanted) return options
  const first = options.filter((option) => plain(option.label).startsWith(wanted))
  const then = options.filter((option) => !plain(option.label).startsWith(wanted) && plain(option.label).includes(wanted))
  return [...first, ...then]
}

/** In a list there is no room for bars: what the answer would be stands behind each option. */
function optionWords(why: FieldWhy, value: InputValue): string {
  const y = why.curve ? curveAt(why.curve, value) : null
  return y === null ? '' : ` (${answerWords(y, why.scale)})`
}
