/** One field of the sheet, edited in place. */
import { type ReactNode } from 'react'
import type { Field, FieldChanges } from '../../api/client'
import { numberText } from '../../domain/format'
import { isSeen } from '../../domain/kinds'
import { parseNumber } from '../../domain/numbers'
import { Histogram } from './Histogram'
import { PreparationSheet } from '../model/PreparationSheet'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { Changeable, OptionLabels } from './FieldExtras'

const KIND_WORDS = { number: 'number', choice: 'choice', yes_no: 'yes/no', text: 'text', picture: 'picture', drawing: 'drawing' } as const

interface FieldSheetRowProps {
  field: Field
  draft: Draft
  isDragged: boolean
  handle: ReactNode
  /** A dragged row is let go here; null while none is dragged. */
  onDropHere: (() => void) | null
}

export function FieldSheetRow({ field, draft, isDragged, handle, onDropHere }: FieldSheetRowProps) {
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
