/** All fields, in the author's groups and order. */
import type { Field, InputValue } from '../api/client'
import { FieldRow, type FieldMessage } from './FieldRow'
import type { FormValues } from './formState'
import type { FieldWhy } from './why'

export interface FieldsProps {
  fields: Field[]
  values: FormValues
  messages: Map<string, FieldMessage>
  why: Map<string, FieldWhy>
  onChange: (name: string, value: InputValue) => void
}

export function Fields({ fields, values, messages, why, onChange }: FieldsProps) {
  return groupsOf(fields).map((group, index) => (
    <section key={`${group.name}-${index}`} aria-label={group.name || 'What the model asks for'} className="mb-6">
      {group.name && <h2 className="pb-2 font-bold">{group.name}</h2>}
      {group.fields.map((field) => (
        <FieldRow
          key={field.name}
          field={field}
          value={values[field.name] ?? null}
          message={messages.get(field.name) ?? null}
          why={why.get(field.name) ?? null}
          onChange={(value) => onChange(field.name, value)}
        />
      ))}
    </section>
  ))
}

/** Fields of one group stand together even if the author's order has others in between. */
function groupsOf(fields: Field[]): { name: string; fields: Field[] }[] {
  const groups = new Map<string, Field[]>()
  for (const field of fields) groups.set(field.group ?? '', [...(groups.get(field.group ?? '') ?? []), field])
  return [...groups].map(([name, inGroup]) => ({ name, fields: inGroup }))
}
