import { describe, expect, it } from 'vitest'
import type { Field } from '../api/client'
import { defaultValues, followDefaults, readForm } from './formState'

const wall: Field = {
  kind: 'number',
  name: 'wall',
  label: 'Wall thickness',
  help: '',
  group: '',
  optional: false,
  unit: 'mm',
  minimum: 3,
  maximum: 18,
  step: 0.1,
  default: 7.5,
  seen: { low: 3, high: 18, usual_low: 6, usual_high: 9, counts: [] },
}
const humidity: Field = { ...wall, name: 'humidity', label: 'Humidity', optional: true }

describe('readForm', () => {
  it('gives the default case as numbers', () => {
    expect(readForm([wall], defaultValues([wall]))).toEqual({ ok: true, inputs: { wall: 7.5 } })
  })

  it('lists every field that cannot be read', () => {
    const read = readForm([wall, { ...wall, name: 'width', label: 'Width' }], { wall: 'thick', width: '' })
    expect(read.ok ? [] : read.faults.map((fault) => fault.message)).toEqual([
      'Wall thickness must be a number, usually from 3 to 18. You typed “thick”.',
      'Width is empty. Type a number, usually from 3 to 18.',
    ])
  })

  it('takes "not known" only where that is allowed', () => {
    expect(readForm([humidity], { humidity: null })).toEqual({ ok: true, inputs: { humidity: null } })
    expect(readForm([wall], { wall: null }).ok).toBe(false)
  })
})

describe('followDefaults', () => {
  it('moves what nobody touched and leaves what somebody did', () => {
    const before = [wall, humidity]
    const after = [{ ...wall, default: 9 }, { ...humidity, default: 60 }]
    expect(followDefaults({ wall: '7.5', humidity: '44' }, before, after)).toEqual({ wall: '9', humidity: '44' })
  })
})
