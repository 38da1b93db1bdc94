/** A whole table at once, where the author lets visitors have one answered. */
import type { Page } from '../../api/client'
import { TableCases } from '../../parts/table/TableCases'

export default function TableSection({ page, isDraft }: { page: Page; isDraft: boolean }) {
  return (
    <section id="table" data-setting="tables" tabIndex={-1} aria-labelledby="table-heading" className="card-line mt-10 pt-5 print:hidden">
      <h2 id="table-heading" className="font-bold">
        A whole table at once
      </h2>
      <TableCases slug={page.slug} isDraft={isDraft} answer={page.answer} fields={page.fields} mostRows={page.table_rows ?? null} />
      <p className="mt-2 text-soft">Your table is deleted once it is answered, or after two hours if it is not begun; the result is kept for a day.</p>
    </section>
  )
}
