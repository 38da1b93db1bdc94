/** One field of the sheet, edited in place. */
import { useContext, useState, type ReactNode } from 'react'
import type { Field, FieldChanges, InputValue } from '../../api/client'
import { fieldNumberText, numberText, valueText } from '../../domain/format'
import { fieldEntry, readNumber } from '../../domain/formState'
import { isSeen } from '../../domain/kinds'
import { Histogram } from './Histogram'
import { PreparationSheet } from '../model/PreparationSheet'
import { Opened } from '../bench/openedPart'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { Changeable, OptionLabels } from './FieldExtras'

const KIND_WORDS = { number: 'number', choice: 'choice', yes_no: 'yes/no', text: 'text', picture: 'picture', drawing: 'drawing' } as const

/** Of the sheet's columns: handle, chosen, name, label, unit, range, start, histogram, opener. */
export const COLUMNS = 'grid grid-cols-[1.75rem_1.25rem_5.5rem_minmax(0,1fr)_3rem_5.75rem_3.75rem_4rem_1.75rem] items-center gap-x-2'

interface FieldSheetRowProps {
  field: Field
  draft: Draft
  isDragged: boolean
  isChosen: boolean
  onChoose: (isChosen: boolean) => void
  handle: ReactNode
  /** A dragged row is let go here; null while none is dragged. */
  onDropHere: (() => void) | null
}

export function FieldSheetRow({ field, draft, isDragged, isChosen, onChoose, handle, onDropHere }: FieldSheetRowProps) {
  // What a picture is made ready by is never folded away, nor the only field there is.
  const isNeverFolded = isSeen(field) || draft.demo.fields.length === 1
  // Of a click on the page and one on the opener here the later holds.
  const opened = useContext(Opened)
  const clicks = opened?.kind === 'field' && opened.name === field.name ? opened.at : 0
  const [folded, setFolded] = useState({ isOpen: isNeverFolded, after: 0 })
  const isOpen = folded.isOpen || clicks > folded.after
  const isLastClicked = clicks > 0
  const save = (changes: Omit<FieldChanges, 'name'>) => draft.save({ fields: [{ name: field.name, ...changes }] })
  return (
    <li
      className={`card-line ${isDragged ? 'opacity-50' : ''} ${isLastClicked ? '-ml-3 border-l-3 border-l-glass pl-[9px]' : ''}`}
      data-field={field.name}
      onDragOver={(event) => onDropHere && event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        onDropHere?.()
      }}
    >
      <div className={`${COLUMNS} min-h-9`}>
        {handle}
        <input type="checkbox" className="size-4 accent-(--glass)" checked={isChosen} aria-label={`Choose ${field.label} to edit with others`} onChange={(event) => onChoose(event.target.checked)} />
        <code className="truncate font-sans text-[0.93em] text-soft" title={`${field.name}, ${kindWord(field)}`}>
          {field.name}
        </code>
        <SavedInput label="Label" isLabelHidden value={field.label} onSave={(label) => save({ label })} />
        {field.kind === 'number' && !field.calendar ? <SavedInput label="Unit" isLabelHidden value={field.unit ?? ''} onSave={(unit) => save({ unit })} /> : <span />}
        <span className="truncate text-soft">{rangeWords(field)}</span>
        {field.kind === 'number' && !field.calendar ? (
          <SavedInput label="Starts at" isLabelHidden value={field.default === null ? '' : fieldEntry(field, field.default)} inputMode="decimal" onSave={(text) => save({ default: readNumber(field, text) ?? text })} />
        ) : (
          <span className="truncate">{isSeen(field) ? '' : valueText(field, (field.default ?? null) as InputValue)}</span>
        )}
        <span className="flex">
          <Histogram field={field} />
        </span>
        <button type="button" className="min-h-7 text-glass" aria-expanded={isOpen} aria-label={`More of ${field.label}`} onClick={() => setFolded({ isOpen: !isOpen, after: clicks })}>
          {isOpen ? '▾' : '▸'}
        </button>
      </div>
      {isOpen && <FieldDetails field={field} draft={draft} />}
    </li>
  )
}

/** What the line has no room for. */
function FieldDetails({ field, draft }: { field: Field; draft: Draft }) {
  const saveText = (key: keyof FieldChanges) => (text: string) => draft.save({ fields: [{ name: field.name, [key]: text }] })
  const saveNumber = (key: keyof FieldChanges) => (text: string) =>
    // What is no number goes to the server as it is: its sentence says what is wrong, here as everywhere.
    draft.save({ fields: [{ name: field.name, [key]: (field.kind === 'number' ? readNumber(field, text) : null) ?? text } as FieldChanges] })
  return (
    <div className="mb-3 ml-9 border-l border-line pl-4">
      <p className="text-[0.93em] text-soft">
        {kindWord(field)}
        {field.optional && ', may be unknown'}
      </p>
      <div className="grid grid-cols-6 gap-x-4 gap-y-2">
        <SavedInput className={isDate(field) ? 'col-span-6' : 'col-span-3'} label="Group" value={field.group ?? ''} onSave={saveText('group')} />
        {field.kind === 'number' && (
          <>
            {isDate(field) && <SavedInput className="col-span-2" label="Starts at" value={field.default === null ? '' : fieldEntry(field, field.default)} onSave={saveNumber('default')} />}
            <SavedInput className={isDate(field) ? 'col-span-2' : ''} label="From" value={fieldEntry(field, field.minimum)} inputMode="decimal" onSave={saveNumber('minimum')} />
            <SavedInput className={isDate(field) ? 'col-span-2' : ''} label="To" value={fieldEntry(field, field.maximum)} inputMode="decimal" onSave={saveNumber('maximum')} />
            {!isDate(field) && <SavedInput label="Step" value={numberText(field.step)} inputMode="decimal" onSave={saveNumber('step')} />}
          </>
        )}
        {field.kind !== 'number' && !isSeen(field) && <DefaultChoice field={field} onSave={(value) => draft.save({ fields: [{ name: field.name, default: value }] })} />}
        <SavedInput className="col-span-6" label="Help" value={field.help ?? ''} onSave={saveText('help')} />
      </div>
      {field.kind !== 'text' && !isSeen(field) && <Changeable field={field} draft={draft} />}
      {isSeen(field) && <PreparationSheet field={field} draft={draft} />}
      {field.kind === 'choice' && <OptionLabels field={field} draft={draft} />}
    </div>
  )
}

const isDate = (field: Field) => field.kind === 'number' && Boolean(field.calendar)

const kindWord = (field: Field) => (isDate(field) ? 'date' : KIND_WORDS[field.kind])

/** What a control goes over, in a few words. */
function rangeWords(field: Field): string {
  if (field.hidden) return 'fixed'
  if (field.kind === 'number') return `${fieldNumberText(field, field.minimum)} to ${fieldNumberText(field, field.maximum)}`
  if (field.kind === 'choice') return `${field.options.length} options`
  return KIND_WORDS[field.kind]
}

interface DefaultChoiceProps {
  field: Exclude<Field, { kind: 'number' | 'picture' | 'drawing' }>
  onSave: (value: string | number | boolean) => Promise<void>
}

function DefaultChoice({ field, onSave }: DefaultChoiceProps) {
  if (field.kind === 'text') {
    return <SavedInput className="col-span-3" label="Starts with" value={field.default ?? ''} onSave={onSave} />
  }
  const options =
    field.kind === 'yes_no'
      ? [
          { value: true, label: 'Yes' },
          { value: false, label: 'No' },
        ]
      : field.options
  return (
    <label className="col-span-3 block">
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
