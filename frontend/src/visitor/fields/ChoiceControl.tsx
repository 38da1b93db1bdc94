/** One of several options: panes side by side while they are few, a list when they are many. */
import { lazy, Suspense } from 'react'
import { type ChoiceControlProps, optionWords } from './choices'
import { LabelledHead } from './FieldHead'
import { Panes } from './ChoicePanes'

/** More options than this, or longer words than fit in a pane, go into a list. */
const MAX_PANES = 5
const MAX_PANE_CHARACTERS = 56
/** More than this are searched rather than looked through. */
const MAX_LISTED = 15

/** Loaded where it is needed; until then, and if it cannot be loaded, the same choice is a plain list. */
const SearchedChoice = lazy(() => import('./SearchedChoice').catch(() => ({ default: List })))

export function ChoiceControl(props: ChoiceControlProps) {
  const characters = props.options.reduce((sum, option) => sum + option.label.length, 0)
  if (props.options.length > MAX_LISTED) {
    return (
      <Suspense fallback={<List {...props} />}>
        <SearchedChoice {...props} />
      </Suspense>
    )
  }
  return props.options.length <= MAX_PANES && characters <= MAX_PANE_CHARACTERS ? <Panes {...props} /> : <List {...props} />
}

function List({ label, options, value, ids, why, onChange }: ChoiceControlProps) {
  const at = options.findIndex((option) => option.value === value)
  return (
    <>
      <LabelledHead label={label} ids={ids} why={why} />
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
