/** Inputs: a sheet, one row a field, edited in place. */
import { useRef, useState, type ReactNode } from 'react'
import type { Field, FieldChanges } from '../api/client'
import { numberText } from '../parts/format'
import { isSeen } from '../visitor/beside'
import { parseNumber } from '../parts/numbers'
import { CasesSheet } from './CasesSheet'
import { Histogram } from './Histogram'
import { KnownPictures } from './KnownPictures'
import { PreparationSheet } from './PreparationSheet'
import { SamplesSheet } from './SamplesSheet'
import { SavedInput } from './SavedInput'
import type { Draft } from './useDraft'

const KIND_WORDS = { number: 'number', choice: 'choice', yes_no: 'yes/no', text: 'text', picture: 'picture', drawing: 'drawing' } as const

export function InputsPlace({ draft }: { draft: Draft }) {
  const { fields } = draft.demo
  const list = useRef<HTMLOListElement>(null)
  const [dragged, setDragged] = useState<number | null>(null)
  const move = (from: number, to: number) => {
    setDragged(null)
    const names = fields.map((field) => field.name)
    const [moved] = names.splice(from, 1)
    if (moved === undefined || from === to) return
    names.splice(to, 0, moved)
    void draft.save({ fields: names.map((name) => ({ name })) }).then(() => {
      // The handle that was used has moved with its row; the keys go on where it is now.
      requestAnimationFrame(() => list.current?.querySelector<HTMLElement>(`[data-handle="${CSS.escape(moved)}"]`)?.focus())
    })
  }
  return (
    <section aria-labelledby="inputs-heading">
      <h2 id="inputs-heading" className="text-[1.25em] font-bold">
        Inputs
      </h2>
      <p className="max-w-[65ch] text-soft">
        Found in the model and the table. Name and order them for visitors; the model keeps its own names and its own order.
      </p>
      <p id="order-help" className="text-[0.93em] text-soft">
        Drag a row by its handle, or with the handle chosen use the arrow keys; Home moves it to the top, End to the end.
      </p>
      <ol ref={list} className="mt-4">
        {fields.map((field, index) => (
          <FieldSheetRow
            key={field.name}
            field={field}
            draft={draft}
            isDragged={dragged === index}
            handle={
              <Handle
                field={field}
                place={`${index + 1} of ${fields.length}`}
                onMove={(to) => move(index, Math.min(fields.length - 1, Math.max(0, to === 'top' ? 0 : to === 'end' ? fields.length - 1 : index + to)))}
                onDrag={() => setDragged(index)}
                onDragEnd={() => setDragged(null)}
              />
            }
            onDropHere={dragged === null ? null : () => move(dragged, index)}
          />
        ))}
      </ol>
      <CasesSheet draft={draft} />
      {fields[0] && fields.length === 1 && isSeen(fields[0]) && draft.demo.answer.kind === 'class' && (
        // What was counted with other pictures than these says nothing any more.
        <KnownPictures key={JSON.stringify([fields[0].preparation, fields[0].behind, fields[0].kind])} draft={draft} field={fields[0]} />
      )}
      {fields[0] && fields.length === 1 && isSeen(fields[0]) && <SamplesSheet draft={draft} field={fields[0]} />}
      {draft.demo.ignored.length > 0 && (
        <p className="card-line pt-3 text-soft">
          Not asked for, because the model ignores {draft.demo.ignored.length === 1 ? 'it' : 'them'}:{' '}
          {draft.demo.ignored.join(', ')}.
        </p>
      )}
    </section>
  )
}

interface FieldSheetRowProps {
  field: Field
  draft: Draft
  isDragged: boolean
  handle: ReactNode
  /** A dragged row is let go here; null while none is dragged. */
  onDropHere: (() => void) | null
}

function FieldSheetRow({ field, draft, isDragged, handle, onDropHere }: FieldSheetRowProps) {
  const saveText = (key: keyof FieldChanges) => (text: string) => draft.save({ fields: [{ name: field.name, [key]: text }] })
  const saveNumber = (key: keyof FieldChanges) => (text: string) =>
    // What is no number goes to the server as it is: its sentence says what is wrong, here as everywhere.
    draft.save({ fields: [{ name: field.name, [key]: parseNumber(text) ?? text } as FieldChanges] })
  return (
    <li
      className={`card-line grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 py-3 ${isDragged ? 'opacity-50' : ''}`}
      data-field={field.name}
      onDragOver={(event) => onDropHere && event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        onDropHere?.()
      }}
    >
      {handle}
      <div>
        <div className="mb-1 flex items-center gap-3 text-soft">
          <code className="font-sans text-[0.93em]">{field.name}</code>
          <span>{KIND_WORDS[field.kind]}</span>
          {field.optional && <span>may be unknown</span>}
          <span className="ml-auto">
            <Histogram field={field} />
          </span>
        </div>
        <div className="grid grid-cols-6 gap-x-4 gap-y-2">
          <SavedInput className="col-span-2" label="Label" value={field.label} onSave={saveText('label')} />
          <SavedInput className="col-span-2" label="Group" value={field.group ?? ''} onSave={saveText('group')} />
          {field.kind === 'number' ? (
            <>
              <SavedInput label="Unit" value={field.unit ?? ''} onSave={saveText('unit')} />
              <SavedInput label="Step" value={numberText(field.step)} inputMode="decimal" onSave={saveNumber('step')} />
              <SavedInput label="From" value={numberText(field.minimum)} inputMode="decimal" onSave={saveNumber('minimum')} />
              <SavedInput label="To" value={numberText(field.maximum)} inputMode="decimal" onSave={saveNumber('maximum')} />
              <SavedInput
                label="Starts at"
                value={field.default === null ? '' : numberText(field.default)}
                inputMode="decimal"
                onSave={saveNumber('default')}
              />
              <SavedInput className="col-span-3" label="Help" value={field.help ?? ''} onSave={saveText('help')} />
            </>
          ) : isSeen(field) ? (
            <SavedInput className="col-span-6" label="Help" value={field.help ?? ''} onSave={saveText('help')} />
          ) : (
            <>
              <DefaultChoice field={field} onSave={(value) => draft.save({ fields: [{ name: field.name, default: value }] })} />
              <SavedInput className="col-span-6" label="Help" value={field.help ?? ''} onSave={saveText('help')} />
            </>
          )}
        </div>
        {field.kind !== 'text' && !isSeen(field) && <Changeable field={field} draft={draft} />}
        {isSeen(field) && <PreparationSheet field={field} draft={draft} />}
        {field.kind === 'choice' && <OptionLabels field={field} draft={draft} />}
      </div>
    </li>
  )
}

interface HandleProps {
  field: Field
  place: string
  /** So many places down, or to the top or the end. */
  onMove: (to: number | 'top' | 'end') => void
  onDrag: () => void
  onDragEnd: () => void
}

const KEY_MOVES: Record<string, number | 'top' | 'end'> = { ArrowUp: -1, ArrowDown: 1, Home: 'top', End: 'end' }

/** Where a row is taken hold of: dragged, or moved by keys. */
function Handle({ field, place, onMove, onDrag, onDragEnd }: HandleProps) {
  return (
    <button
      type="button"
      draggable
      data-handle={field.name}
      aria-label={`Order of ${field.label}, ${place}`}
      aria-describedby="order-help"
      className="min-h-7 min-w-7 cursor-grab self-start text-glass"
      onDragStart={(event) => {
        event.dataTransfer.effectAllowed = 'move'
        event.dataTransfer.setData('text/plain', field.name)
        onDrag()
      }}
      onDragEnd={onDragEnd}
      onKeyDown={(event) => {
        const to = KEY_MOVES[event.key]
        if (to === undefined) return
        event.preventDefault()
        onMove(to)
      }}
    >
      ⠿
    </button>
  )
}

interface DefaultChoiceProps {
  field: Exclude<Field, { kind: 'number' | 'picture' | 'drawing' }>
  onSave: (value: string | number | boolean) => Promise<void>
}

function DefaultChoice({ field, onSave }: DefaultChoiceProps) {
  if (field.kind === 'text') {
    return <SavedInput className="col-span-2" label="Starts with" value={field.default ?? ''} onSave={onSave} />
  }
  const options =
    field.kind === 'yes_no'
      ? [
          { value: true, label: 'Yes' },
          { value: false, label: 'No' },
        ]
      : field.options
  return (
    <label className="col-span-2 block">
      <span className="block text-soft">Starts at</span>
      <select
        className="w-full border-b border-edge bg-paper py-0.5"
        value={options.findIndex((option) => option.value === field.default)}
        onChange={(event) => {
          const option = options[Number(event.target.value)]
          if (option) void onSave(option.value)
        }}
      >
        {options.map((option, index) => (
          <option key={String(option.value)} value={index}>
            {option.label}
          </option>
        ))}
      </select>
    </label>
  )
}

const DIRECTIONS = [
  { value: 'any', label: 'both ways' },
  { value: 'up', label: 'only up' },
  { value: 'down', label: 'only down' },
] as const

/** Whether "what would change it" may offer this field, and which way. */
function Changeable({ field, draft }: { field: Exclude<Field, { kind: 'text' | 'picture' | 'drawing' }>; draft: Draft }) {
  const save = (changes: Omit<FieldChanges, 'name'>) => void draft.save({ fields: [{ name: field.name, ...changes }] })
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-4">
      <label className="flex min-h-7 items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-(--glass)"
          checked={field.changeable}
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
    </div>
  )
}

/** What visitors read for each option; folded away while there is nothing to say about them. */
function OptionLabels({ field, draft }: { field: Extract<Field, { kind: 'choice' }>; draft: Draft }) {
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
