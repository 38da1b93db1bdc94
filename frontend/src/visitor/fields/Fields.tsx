/** All fields, in the author's groups and order. */
import { useState } from 'react'
import type { Field, InputValue, Page } from '../../api/client'
import { FieldRow, type FieldMessage } from './FieldRow'
import type { FormValues } from '../../domain/formState'
import type { FieldWhy } from '../../domain/why'

export interface FieldsProps {
  page: Page
  values: FormValues
  messages: Map<string, FieldMessage>
  why: Map<string, FieldWhy>
  onChange: (name: string, value: InputValue) => void
}

/** With many fields, those that move the answer least are folded away; one with something to say is not. */
export function Fields({ page, values, messages, why, onChange }: FieldsProps) {
  const [isUnfolded, setIsUnfolded] = useState(false)
  const folded = new Set(page.folded)
  const shown = page.fields.filter((field) => !folded.has(field.name) || messages.has(field.name))
  const first = [...why.values()].find((one) => one.push !== null)
  const towards = first && page.answer.kind !== 'number' ? `towards “${first.of}”` : ''
  // Its line is there from the start, so that nothing moves when it comes.
  const canPoint = page.parts.contributions && page.fields.length > 1 && page.answer.kind !== 'number'
  const rest = page.fields.filter((field) => !shown.includes(field))
  const row = (field: Field) => (
    <FieldRow
      key={field.name}
      field={field}
      value={values[field.name] ?? null}
      message={messages.get(field.name) ?? null}
      why={why.get(field.name) ?? null}
      isAlone={page.fields.length === 1}
      isIgnored={page.ignored.includes(field.name)}
      onChange={onChange}
    />
  )
  return (
    <>
      {groupsOf(shown).map((group, index) => (
        <section key={`${group.name}-${index}`} aria-label={group.name || 'What the model asks for'} tabIndex={-1} className="mb-6">
          {(group.name || canPoint) && <div className="flex min-h-7 items-baseline justify-between gap-3 pb-1.5">
            {group.name ? <h2 className="font-bold">{group.name}</h2> : <span />}
            {towards && <p className="text-[0.84em] text-soft">{towards}</p>}
          </div>}
          {group.fields.map(row)}
        </section>
      ))}
      {rest.length > 0 && (
        <details className="card-line mb-6 pt-3" open={isUnfolded} onToggle={(event) => setIsUnfolded(event.currentTarget.open)}>
          <summary className="w-fit font-bold">{rest.length} more fields, which move the answer less</summary>
          <p className="text-[0.88em] text-soft">They stay as they are until you change them.</p>
          {isUnfolded && rest.map(row)}
        </details>
      )}
    </>
  )
}

/** Fields of one group stand together even if the author's order has others in between. */
function groupsOf(fields: Field[]): { name: string; fields: Field[] }[] {
  const groups = new Map<string, Field[]>()
  for (const field of fields) groups.set(field.group ?? '', [...(groups.get(field.group ?? '') ?? []), field])
  return [...groups].map(([name, inGroup]) => ({ name, fields: inGroup }))
}
