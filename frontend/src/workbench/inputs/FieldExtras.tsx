/** Whether visitors could change a field, and how its options read. */
import type { Field, FieldChanges } from '../../api/client'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { CALENDARS } from './calendarWords'

const DIRECTIONS = [
  { value: 'any', label: 'both ways' },
  { value: 'up', label: 'only up' },
  { value: 'down', label: 'only down' },
] as const

/** Whether "what would change it" may offer this field, and which way. */
export function Changeable({ field, draft }: { field: Exclude<Field, { kind: 'text' | 'picture' | 'drawing' }>; draft: Draft }) {
  const save = (changes: Omit<FieldChanges, 'name'>) => void draft.save({ fields: [{ name: field.name, ...changes }] })
  return (
    <>
    <div className="mt-2 flex flex-wrap items-center gap-x-4">
      <label className="flex min-h-7 items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-(--glass)"
          checked={field.changeable}
          disabled={field.hidden}
          onChange={(event) => save({ changeable: event.target.checked })}
        />
        Visitors could change this
      </label>
      {field.kind === 'number' && field.changeable && (
        <select
          aria-label={`Which way ${field.label} could change`}
          className="border-b border-edge bg-paper py-0.5"
          value={field.direction}
          onChange={(event) => save({ direction: event.target.value as 'any' | 'up' | 'down' })}
        >
          {DIRECTIONS.map(({ value, label }) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      )}
      {field.kind === 'number' && (
        <label className="flex min-h-7 items-center gap-2">
          It stands for a date
          <select className="border-b border-edge bg-paper py-0.5" value={field.calendar ?? ''} onChange={(event) => save({ calendar: event.target.value })}>
            {CALENDARS.map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
        </label>
      )}
      <label className="flex min-h-7 items-center gap-2">
        <input type="checkbox" className="size-4 accent-(--glass)" checked={field.hidden} onChange={(event) => save({ hidden: event.target.checked })} />
        Fixed at its start, and not shown
      </label>
      {field.kind === 'choice' && (
        <label className="flex min-h-7 items-center gap-2">
          <input type="checkbox" className="size-4 accent-(--glass)" checked={field.other} onChange={(event) => save({ other: event.target.checked })} />
          Other values too, with a note
        </label>
      )}
    </div>
    {field.hidden && <p className="text-[0.93em] text-soft">Every case has this value; the page says so. What known cases say holds no longer: in them it was free.</p>}
    </>
  )
}

/** What visitors read for each option; folded away while there is nothing to say about them. */
export function OptionLabels({ field, draft }: { field: Extract<Field, { kind: 'choice' }>; draft: Draft }) {
  const save = (index: number) => (label: string) => {
    const options = field.options.map((option, at) => (at === index ? { ...option, label } : option))
    return draft.save({ fields: [{ name: field.name, options }] })
  }
  return (
    <details className="mt-2">
      <summary className="text-soft">{field.options.length} options</summary>
      <div className="mt-1 grid grid-cols-3 gap-x-4 gap-y-2">
        {field.options.map((option, index) => (
          <SavedInput key={String(option.value)} label={String(option.value)} value={option.label} onSave={save(index)} />
        ))}
      </div>
    </details>
  )
}
