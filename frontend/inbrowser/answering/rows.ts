/** Rows of the model's own values, asked and read. */
import type { Field, YesNoField } from '../../src/api/client'
import type { CompiledModel } from '../../runtime/model'
import type { Value } from '../../runtime/blocks'

export type Row = Record<string, Value>

/** A compiled model asked about rows. */
export class RowModel {
  readonly model: CompiledModel

  constructor(model: CompiledModel) {
    this.model = model
  }

  /** The outputs of each row. */
  outputs(rows: readonly Row[]): number[][] {
    const { data, width } = this.model.predict(this.columns(rows))
    return rows.map((_, at) => Array.from(data.subarray(at * width, (at + 1) * width)))
  }

  /** An output at each of some values of a field, the rest as in a row. */
  moved(row: Row, name: string, values: readonly Value[], place: number): { x: Value[]; y: number[] } {
    return { x: [...values], y: this.outputs(values.map((value) => ({ ...row, [name]: value }))).map((own) => own[place]) }
  }

  /** Rows as the model takes them. */
  columns(rows: readonly Row[]): Record<string, Value[]> {
    return Object.fromEntries(this.model.inputs.map(({ name }) => [name, rows.map((row) => row[name])]))
  }
}

/** The first rows of columns. */
export function firstRows(columns: Record<string, Value[]>, most: number): Row[] {
  const nRows = Object.values(columns)[0]?.length ?? 0
  return Array.from({ length: Math.min(most, nRows) }, (_, at) => rowAt(columns, at))
}

export function rowAt(columns: Record<string, Value[]>, at: number): Row {
  return Object.fromEntries(Object.entries(columns).map(([name, values]) => [name, values[at]]))
}

/** A value that the model knows, as a visitor gives it. */
export function entered(field: Field, value: Value): Value {
  return field.kind === 'yes_no' && value !== null ? value === (field as YesNoField).yes : value
}
