/** A piece of text. */
import type { TextField } from '../api/client'
import { FieldHead } from './FieldHead'
import type { ControlIds } from './FieldRow'
import type { FieldWhy } from './why'

export interface TextControlProps {
  field: TextField
  text: string
  ids: ControlIds
  why: FieldWhy | null
  onChange: (text: string) => void
}

export function TextControl({ field, text, ids, why, onChange }: TextControlProps) {
  return (
    <>
      <FieldHead
        why={why}
        label={
          <label id={ids.label} htmlFor={ids.control} className="font-bold">
            {field.label}
          </label>
        }
      />
      <textarea
        id={ids.control}
        className="block min-h-24 w-full border border-edge bg-paper px-2 py-1"
        rows={4}
        value={text}
        maxLength={field.max_length}
        aria-describedby={ids.describedBy}
        aria-invalid={ids.isInvalid}
        onChange={(event) => onChange(event.target.value)}
      />
    </>
  )
}
