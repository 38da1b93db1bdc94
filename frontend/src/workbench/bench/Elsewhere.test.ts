import { describe, expect, it } from 'vitest'
import type { DemoState } from '../../api/client'
import { bothVersions } from './Elsewhere'

const demo = {
  title: 'Theirs',
  fields: [{ name: 'wall', label: 'Wall', unit: 'mm' }],
  answer: { kind: 'class', noun: 'pots' },
} as unknown as DemoState

describe('of a setting that two windows changed both versions are told', () => {
  it('of the demo, of a field and of the answer', () => {
    const mine = { title: 'Mine', fields: [{ name: 'wall', label: 'Thickness' }], answer: { noun: '' } }
    expect(bothVersions(demo, mine)).toEqual([
      ['title', 'Mine', 'Theirs'],
      ['wall: label', 'Thickness', 'Wall'],
      ['answer: noun', 'nothing', 'pots'],
    ])
  })
})
