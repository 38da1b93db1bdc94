/** One of many options, typed for. */
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react'
import { useMemo, useState } from 'react'
import { type ChoiceControlProps, type ChoiceOption, optionWords, searched } from './choices'
import { LabelledHead } from './FieldHead'

/** So many are shown of what a search finds. */
const MAX_FOUND = 100

/** What begins with the words comes first, then what has them. */
export default function SearchedChoice({ label, options, value, ids, why, onChange }: ChoiceControlProps) {
  const [query, setQuery] = useState('')
  const chosen = options.find((option) => option.value === value) ?? null
  const found = useMemo(() => searched(options, query), [options, query])
  return (
    <>
      <LabelledHead label={label} ids={ids} why={why} />
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
