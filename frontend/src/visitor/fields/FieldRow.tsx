/** One field: label, unit and help; the control; what is to be said about the value. */
import { memo, type ReactNode } from 'react'
import type { Field, InputValue } from '../../api/client'
import { ChoiceControl } from './ChoiceControl'
import { loadedFirst } from '../../parts/loadedFirst'
import { NumberControl } from './NumberControl'
import { TextControl } from './TextControl'
import { answerWords, type FieldWhy } from '../../domain/why'

/** There before the page is drawn, if it is needed: `drawing.tsx` fetches it with the page. */
export const [SeenControl, loadSeenControl] = loadedFirst(() => import('../pictures/SeenControl'))

export interface FieldMessage {
  level: 'warn' | 'fault'
  text: string
}

export interface FieldRowProps {
  field: Field
  /** What the control shows; null for "not known". */
  value: InputValue
  message: FieldMessage | null
  /** What explains the answer at this field, once that has come. */
  why: FieldWhy | null
  /** Whether the model was found to make no use of it. */
  isIgnored: boolean
  /** The same function each time: rows that nothing changed for are not drawn again. */
  onChange: (name: string, value: InputValue) => void
  /** Whether it is all that the page asks for: the page's own heading says what it is then. */
  isAlone: boolean
}

/** What a control needs to be named and described. */
export interface ControlIds {
  label: string
  control: string
  /** Ids of help and message, as `aria-describedby` wants them. */
  describedBy: string | undefined
  isInvalid: boolean
}

export const FieldRow = memo(function FieldRow({ field, value, message, why, isIgnored, isAlone, onChange: onChangeOf }: FieldRowProps) {
  const onChange = (next: InputValue) => onChangeOf(field.name, next)
  const base = `field-${field.name.replace(/[^A-Za-z0-9_-]/g, '_')}`
  const described = [field.help && `${base}-help`, message && `${base}-message`].filter(Boolean).join(' ')
  const ids: ControlIds = {
    label: `${base}-label`,
    control: base,
    describedBy: described || undefined,
    isInvalid: message?.level === 'fault',
  }
  return (
    <div className={`field ${isAlone ? 'alone' : 'card-line py-3'}`} data-field={field.name}>
      {renderControl(field, value, ids, why, onChange)}
      {field.help && (
        <p id={`${base}-help`} className="mt-1 text-[0.85em] text-soft">
          {field.help}
        </p>
      )}
      {isIgnored && (
        <p className="mt-1 text-[0.85em] text-soft">
          Whatever stands here, the answer stays the same: {isConstant(field) ? 'it never varies in the author’s table' : 'the model makes no use of it'}.
        </p>
      )}
      {field.optional && (
        <label className="mt-2 flex w-fit items-center gap-2 text-[0.85em]">
          <input
            type="checkbox"
            className="size-4 accent-(--glass)"
            checked={value === null}
            onChange={(event) => onChange(event.target.checked ? null : fallback(field))}
          />
          I don’t know
          {typeof why?.curve?.unknown === 'number' && (
            <span className="text-soft">→ {answerWords(why.curve.unknown, why.scale)}</span>
          )}
        </label>
      )}
      {message && (
        <p
          id={`${base}-message`}
          className={`mt-2 text-[0.88em] ${message.level === 'fault' ? 'text-alert' : 'text-caution'}`}
        >
          <span aria-hidden="true">{message.level === 'fault' ? '✕ ' : '! '}</span>
          {message.text}
        </p>
      )}
    </div>
  )
})

/** Whether the reference table has one value only. */
function isConstant(field: Field): boolean {
  if (field.kind === 'number') return field.seen.low === field.seen.high
  return field.kind === 'choice' && field.options.filter((option) => (option.count ?? 0) > 0).length === 1
}

function renderControl(
  field: Field,
  value: InputValue,
  ids: ControlIds,
  why: FieldWhy | null,
  onChange: (value: InputValue) => void,
): ReactNode {
  switch (field.kind) {
    case 'number':
      return <NumberControl field={field} text={value === null ? null : String(value)} ids={ids} why={why} onChange={onChange} />
    case 'choice':
      return <ChoiceControl label={field.label} options={field.options} value={value} ids={ids} why={why} onChange={onChange} />
    case 'yes_no':
      return (
        <ChoiceControl
          label={field.label}
          options={[
            { value: true, label: 'Yes' },
            { value: false, label: 'No' },
          ]}
          value={value}
          ids={ids}
          why={why}
          onChange={onChange}
        />
      )
    case 'text':
      return <TextControl field={field} text={value === null ? '' : String(value)} ids={ids} why={why} onChange={onChange} />
    case 'picture':
    case 'drawing':
      return <SeenControl field={field} value={value} ids={ids} why={why} onChange={onChange} />
  }
}

/** What "I do know" starts from. */
function fallback(field: Field): InputValue {
  switch (field.kind) {
    case 'number':
      return String(field.default ?? field.minimum)
    case 'choice':
      return field.default ?? field.options[0]?.value ?? null
    case 'yes_no':
      return field.default ?? false
    case 'text':
      return field.default ?? ''
    case 'picture':
    case 'drawing':
      return null
  }
}
