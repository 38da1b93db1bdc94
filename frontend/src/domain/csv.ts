/** A table as CSV. What a spreadsheet would take for a formula is text in it. */

type Cell = string | number | boolean | null

const FORMULA = /^[=+\-@\t\r]/

export function csvOf(columns: readonly string[], rows: readonly (readonly Cell[])[]): string {
  return [columns, ...rows].map((row) => row.map(cellOf).join(',')).join('\r\n') + '\r\n'
}

function cellOf(cell: Cell): string {
  if (cell === null) return ''
  if (typeof cell !== 'string') return String(cell)
  const text = FORMULA.test(cell) ? `'${cell}` : cell
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
}
