/** Every operation says what the server's reader says, on the vectors that both read. */
import { describe, expect, it } from 'vitest'
import written from '../../tests/vectors/operations.json'
import type { Value } from './blocks'
import { CompiledModel } from './model'
import { OPERATIONS } from './operations'

interface Vector {
  name: string
  op: string
  model: string
  columns: Record<string, (Value | string)[]>
  outputs: (number | string)[][]
}

/** By how much functions that are no arithmetic may differ from one mathematical library to another. */
const RELATIVE = 1e-12
/** What comes out the same to the last bit, whatever the processor. */
const INEXACT = new Set(
  'exp log1p expm1 log log2 log10 cbrt sin cos tan tanh arctan log_counts sigmoid softmax power yeo_johnson un_yeo_johnson box_cox un_box_cox normal_share quantiles kernel neighbours bells pair_probabilities linear'.split(' '),
)
const vectors = written as unknown as Vector[]

function numberOf(value: number | string): number {
  return typeof value === 'number' ? value : Number(value)
}

function columnsOf({ columns, op }: Vector): Record<string, Value[]> {
  const isText = op === 'count_terms'
  return Object.fromEntries(Object.entries(columns).map(([name, values]) => [name, values.map((value) => (value === 'NaN' && !isText ? NaN : value))]))
}

/** How far two numbers are apart, of the larger; nothing where both are the same, or both none. */
function apart(found: number, expected: number): number {
  if (Object.is(found, expected) || found === expected) return 0
  return Math.abs(found - expected) / Math.max(Math.abs(found), Math.abs(expected), Number.MIN_VALUE)
}

describe('operations', () => {
  it('all have vectors', () => expect(new Set([...vectors.map(({ op }) => op), 'numbers'])).toEqual(new Set(Object.keys(OPERATIONS))))

  it.each(vectors.map((vector) => [vector.name, vector] as const))('%s', (_, vector) => {
    const model = new CompiledModel(Uint8Array.from(atob(vector.model), (sign) => sign.charCodeAt(0)))
    const { data, width } = model.predict(columnsOf(vector))
    expect(width).toBe(vector.outputs[0]?.length)
    const most = Math.max(...vector.outputs.flat().map((expected, at) => apart(data[at], numberOf(expected))))
    expect(most).toBeLessThanOrEqual(INEXACT.has(vector.op) ? RELATIVE : 0)
  })
})
