/** Several fields at once: the same group, unit or freedom for all that are chosen; one step to undo. */
import { faultText } from '../../api/faultText'
import { useState } from 'react'
import { type Field, type FieldChanges } from '../../api/client'
import { isSeen } from '../../domain/kinds'
import type { Draft } from '../bench/useDraft'

interface ManyFieldsProps {
  draft: Draft
  chosen: Field[]
  onChoose: (names: string[]) => void
}

export function ManyFields({ draft, chosen, onChoose }: ManyFieldsProps) {
  const { fields } = draft.demo
  const [group, setGroup] = useState('')
  const [unit, setUnit] = useState('')
  const [fault, setFault] = useState('')
  const set = (changes: Omit<FieldChanges, 'name'>, of: Field[] = chosen) =>
    void draft.save({ fields: of.map(({ name }) => ({ name, ...changes })) }).then(
      () => setFault(''),
      (error: unknown) => setFault(faultText(error)),
    )
  const numbers = chosen.filter((field) => field.kind === 'number' && !field.calendar)
  const plain = chosen.filter((field) => field.kind !== 'text' && !isSeen(field))
  if (fields.length < 2) return null
  return (
    <div className="mt-2" data-testid="many">
      <p className="flex flex-wrap items-baseline gap-x-5">
        <span role="status" className="text-soft">
          {chosen.length === 0 ? 'Choose fields to edit several at once.' : `${chosen.length} of ${fields.length} chosen`}
        </span>
        <button type="button" className="button-quiet" onClick={() => onChoose(chosen.length === fields.length ? [] : fields.map((field) => field.name))}>
          {chosen.length === fields.length ? 'None' : 'All'}
        </button>
      </p>
      {chosen.length > 0 && (
        <div className="mt-1 flex flex-wrap items-end gap-x-4 gap-y-2 border-l-3 border-glass pl-4">
          <Setting label="Group" text={group} onText={setGroup} onSet={() => set({ group: group.trim() })} />
          {numbers.length > 0 && <Setting label="Unit" text={unit} onText={setUnit} onSet={() => set({ unit: unit.trim() }, numbers)} />}
          {plain.length > 0 && (
            <>
              <button type="button" className="button-plain" onClick={() => set({ changeable: true }, plain)}>
                Can be changed
              </button>
              <button type="button" className="button-plain" onClick={() => set({ changeable: false }, plain)}>
                Cannot be changed
              </button>
              <button type="button" className="button-plain" onClick={() => set({ hidden: true }, plain)}>
                Fix and hide
              </button>
              <button type="button" className="button-plain" onClick={() => set({ hidden: false }, plain)}>
                Show
              </button>
            </>
          )}
        </div>
      )}
      {fault && (
        <p role="alert" className="mt-1 text-alert">
          {fault}
        </p>
      )}
    </div>
  )
}

interface SettingProps {
  label: string
  text: string
  onText: (text: string) => void
  onSet: () => void
}

function Setting({ label, text, onText, onSet }: SettingProps) {
  return (
    <form className="flex items-end gap-2" onSubmit={(event) => (event.preventDefault(), onSet())}>
      <label>
        <span className="block text-soft">{label} of all chosen</span>
        <input className="input-line w-32" value={text} onChange={(event) => onText(event.target.value)} />
      </label>
      <button type="submit" className="button-plain">
        Set<span className="sr-only"> {label.toLowerCase()}</span>
      </button>
    </form>
  )
}
