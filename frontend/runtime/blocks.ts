/** What steps hand on: rows of numbers side by side, and the arrays and raw columns that they read. */

/** Numbers of shape (`rows`, `width`), row after row. */
export interface Block {
  rows: number
  width: number
  data: Float64Array
}

export type Numbers = Float64Array | Float32Array | BigInt64Array | Int32Array | Uint8Array

/** One of a model's arrays. */
export interface ModelArray {
  /** As NumPy names it: `float64`, `int32`, … */
  type: string
  shape: number[]
  data: Numbers
}

export type Arrays = Record<string, ModelArray>
export type Settings = Record<string, unknown>
/** A raw value; null where one is missing. */
export type Value = number | string | boolean | null
/** Raw values by the name of their column, one a row. */
export type Columns = Record<string, readonly Value[]>

export function emptyBlock(rows: number, width: number): Block {
  return { rows, width, data: new Float64Array(rows * width) }
}

/** A block of the same shape, each number made of the one in its place. `column` is the number's own. */
export function eachNumber(block: Block, compute: (value: number, column: number) => number): Block {
  const out = emptyBlock(block.rows, block.width)
  const { data, width } = block
  for (let at = 0, column = 0; at < data.length; at++) {
    out.data[at] = compute(data[at], column)
    column = column + 1 === width ? 0 : column + 1
  }
  return out
}

/** A block made row by row: `compute` reads a row of `block` and fills a row of `width` numbers. */
export function eachRow(block: Block, width: number, compute: (row: Float64Array, out: Float64Array) => void): Block {
  const made = emptyBlock(block.rows, width)
  for (let row = 0; row < block.rows; row++) {
    compute(rowOf(block, row), rowOf(made, row))
  }
  return made
}

/** A row of a block; what is written to it is written to the block. */
export function rowOf({ data, width }: Block, row: number): Float64Array {
  return data.subarray(row * width, (row + 1) * width)
}

/** The numbers of an array that is one of 64-bit numbers; others are copied into such a one. */
export function float64s({ data }: ModelArray): Float64Array {
  return data instanceof Float64Array ? data : Float64Array.from(data as ArrayLike<number>, Number)
}
