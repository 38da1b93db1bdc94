/** Whole tables: whether visitors may have one answered, and the author's own. */
import type { DemoState } from '../../api/client'
import { isSeen } from '../../domain/kinds'
import { TableCases } from '../../parts/table/TableCases'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'

export function TablesSheet({ draft }: { draft: Draft }) {
  const { demo, save } = draft
  if (demo.fields.some(isSeen)) return null
  return (
    <section data-settings="tables" className="card-line mt-5 pt-4" aria-labelledby="tables-heading" data-testid="tables">
      <h3 id="tables-heading" className="font-bold">
        Whole tables
      </h3>
      <label className="mt-1 flex items-start gap-2">
        <input type="checkbox" className="mt-1 size-4 accent-(--glass)" checked={demo.parts?.tables ?? false} onChange={(event) => void save({ parts: { tables: event.target.checked } })} />
        <span>
          Visitors may have a whole table answered <span className="text-soft">(from the next release on)</span>
        </span>
      </label>
      {demo.parts?.tables && (
        <SavedInput
          className="mt-2 max-w-xs"
          label="How many rows such a table may have"
          value={String(demo.table_rows)}
          inputMode="decimal"
          onSave={(text) => save({ table_rows: (text.trim() === '' ? text : Number(text)) as number })}
        />
      )}
      <h4 className="mt-3">A table of your own, asked of the draft</h4>
      <TableCases slug={demo.slug} isDraft answer={demo.answer} fields={shown(demo)} mostRows={null} />
    </section>
  )
}

function shown(demo: DemoState) {
  return demo.fields.filter((field) => !field.hidden)
}
