/** From raw columns to blocks, and blocks side by side. */
import { emptyBlock, float64s, rowOf, type Arrays, type Block, type Columns, type Settings, type Value } from '../blocks'
import { need, ValueNotKnown } from '../errors'
import { arrayOf, listIn, numberIn, oneColumn, type Operations } from './registry'

const SHOWN = 8

export function columnsIn(settings: Settings): string[] {
  return listIn(settings, 'columns') as string[]
}

function numbers(_: Block[], __: Arrays, settings: Settings, columns: Columns): Block {
  const names = columnsIn(settings)
  const out = emptyBlock(columns[names[0]].length, names.length)
  for (const [at, name] of names.entries()) {
    for (const [row, value] of columns[name].entries()) out.data[row * names.length + at] = value === null ? NaN : Number(value)
  }
  return out
}

/** Yes and no are the numbers 1 and 0 wherever values are looked up. */
function asKey(value: Value): Value {
  if (typeof value === 'boolean') return Number(value)
  return typeof value === 'number' && Number.isNaN(value) ? null : value
}

/** Each value's place among the categories; null there stands for a missing value. */
function placesOf(settings: Settings): Map<Value, number> {
  return new Map((listIn(settings, 'categories') as Value[]).map((category, at) => [asKey(category), at]))
}

function codes(_: Block[], __: Arrays, settings: Settings, columns: Columns): Block {
  const [name] = columnsIn(settings)
  const places = placesOf(settings)
  const values = columns[name]
  const out = emptyBlock(values.length, 1)
  for (const [row, value] of values.entries()) {
    const code = places.get(asKey(value))
    if (code === undefined && settings.refuse_unknown) refuse(settings, value, name)
    out.data[row] = code ?? NaN
  }
  return out
}

function codesOfNumbers([block]: Block[], _: Arrays, settings: Settings): Block {
  const places = placesOf(settings)
  const out = emptyBlock(block.rows, 1)
  for (let row = 0; row < block.rows; row++) {
    // Nothing and minus nothing are the same number, and the same key.
    const code = places.get(asKey(block.data[row]))
    if (code === undefined && settings.refuse_unknown) refuse(settings, block.data[row], '')
    out.data[row] = code ?? NaN
  }
  return out
}

function refuse(settings: Settings, value: unknown, column: string): never {
  const known = (settings.categories as Value[]).slice(0, SHOWN).join(', ')
  throw new ValueNotKnown(`The model does not know the value ${String(value)}${column && ` of ${column}`}. It knows ${known}.`, value, column)
}

function join(blocks: Block[]): Block {
  const out = emptyBlock(blocks[0].rows, blocks.reduce((width, block) => width + block.width, 0))
  for (let row = 0; row < out.rows; row++) {
    const whole = rowOf(out, row)
    let at = 0
    for (const block of blocks) {
      whole.set(rowOf(block, row), at)
      at += block.width
    }
  }
  return out
}

function take([block]: Block[], _: Arrays, settings: Settings): Block {
  const places = listIn(settings, 'places') as number[]
  const out = emptyBlock(block.rows, places.length)
  for (let row = 0; row < block.rows; row++) rowOf(out, row).set(places.map((place) => rowOf(block, row)[place]))
  return out
}

function oneHot([block]: Block[], _: Arrays, settings: Settings): Block {
  const places = listIn(settings, 'places') as number[]
  const out = emptyBlock(block.rows, numberIn(settings, 'width'))
  for (let row = 0; row < block.rows; row++) {
    const code = block.data[row]
    const place = code >= 0 && code < places.length ? places[Math.trunc(code)] : -1
    if (place >= 0) rowOf(out, row)[place] = 1
  }
  return out
}

function lookup([block]: Block[], arrays: Arrays): Block {
  const { shape } = arrays.table
  const table = float64s(arrays.table)
  const [nRows, width] = shape
  const out = emptyBlock(block.rows, width)
  for (let row = 0; row < block.rows; row++) {
    const code = block.data[row]
    const place = code >= 0 && code < nRows - 1 ? Math.trunc(code) : nRows - 1
    rowOf(out, row).set(table.subarray(place * width, (place + 1) * width))
  }
  return out
}

function isWithin(places: unknown[], least: number, end: number): boolean {
  return places.every((at) => Number.isInteger(at) && (at as number) >= least && (at as number) < end)
}

export const COLUMNS: Operations = {
  numbers: { width: (_, __, settings) => columnsIn(settings).length, run: numbers },
  codes: {
    width: (_, __, settings) => {
      need(columnsIn(settings).length === 1, 'one column is looked up at a time')
      need(listIn(settings, 'categories').every((one) => one === null || typeof one !== 'object'), 'categories are plain values')
      return 1
    },
    run: codes,
  },
  codes_of_numbers: {
    width: (widths, arrays, settings) => {
      need(listIn(settings, 'categories').every((one) => one === null || typeof one === 'number'), 'options are numbers')
      return oneColumn(widths, arrays, settings)
    },
    run: codesOfNumbers,
  },
  join: { width: (widths) => widths.reduce((whole, width) => whole + width, 0), run: join },
  take: {
    width: (widths, _, settings) => {
      need(isWithin(listIn(settings, 'places'), 0, widths[0]), 'a place outside the block')
      return listIn(settings, 'places').length
    },
    run: take,
  },
  one_hot: {
    width: (widths, _, settings) => {
      const width = numberIn(settings, 'width')
      need(widths.length === 1 && widths[0] === 1 && isWithin(listIn(settings, 'places'), -1, width), 'a place outside the block')
      return width
    },
    run: oneHot,
  },
  lookup: {
    width: (widths, arrays) => {
      const { shape } = arrayOf(arrays, 'table')
      need(widths.length === 1 && widths[0] === 1 && shape.length === 2, 'a lookup wants one column of codes and a table')
      need(shape[0] > 0, 'the table has no row for codes it does not know')
      return shape[1]
    },
    run: lookup,
  },
}
