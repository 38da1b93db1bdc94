/** What an operation is: how wide its result is, checked once when a model is read, and what it computes. */
import type { Arrays, Block, Columns, ModelArray, Settings } from '../blocks'
import { need } from '../errors'

export interface Operation {
  /** How wide the result is; throws `ModelDamaged` if the parts do not fit together. */
  width: (widths: number[], arrays: Arrays, settings: Settings) => number
  /** The result, trusting what was checked. */
  run: (blocks: Block[], arrays: Arrays, settings: Settings, columns: Columns) => Block
}

export type Operations = Record<string, Operation>
type Width = Operation['width']

export const sameWidth: Width = (widths) => {
  need(widths.length === 1, 'one block is wanted')
  return widths[0]
}

export const oneColumn: Width = (widths) => {
  need(widths.length === 1 && widths[0] === 1, 'one column is wanted')
  return 1
}

export const vectorWidth: Width = (widths, arrays) => {
  const { shape } = arrayOf(arrays, 'vector')
  need(widths.length === 1 && shape.length === 1 && shape[0] === widths[0], 'the vector does not fit the block')
  return widths[0]
}

/** One of a step's arrays. */
export function arrayOf(arrays: Arrays, part: string): ModelArray {
  const found = arrays[part]
  need(found !== undefined, `\`${part}\` is missing`)
  return found
}

export function numberIn(settings: Settings, name: string): number {
  const found = settings[name]
  need(typeof found === 'number', `\`${name}\` must be a number`)
  return found
}

export function listIn(settings: Settings, name: string): unknown[] {
  const found = settings[name]
  need(Array.isArray(found), `\`${name}\` must be a list`)
  return found
}

export function isAscending(numbers: ArrayLike<number>): boolean {
  for (let at = 1; at < numbers.length; at++) {
    if (!(numbers[at] >= numbers[at - 1])) return false
  }
  return true
}
