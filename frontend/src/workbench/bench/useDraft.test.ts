import { describe, expect, it } from 'vitest'
import type { DemoState } from '../../api/client'
import { inverse } from './useDraft'

const demo = {
  title: 'Will it crack?',
  fields: [
    { kind: 'number', name: 'wall', label: 'Wall', unit: 'mm' },
    { kind: 'number', name: 'width', label: 'Width', unit: 'cm' },
  ],
  answer: { kind: 'class', noun: 'pieces', classes: [{ name: 'cracks', label: 'crack', headline: 'Cracks' }] },
} as unknown as DemoState

describe('inverse', () => {
  it('sets back only what was changed', () => {
    expect(inverse(demo, { title: 'Crack?', fields: [{ name: 'wall', label: 'Thickness' }] })).toEqual({
      title: 'Will it crack?',
      fields: [{ name: 'wall', label: 'Wall' }],
    })
  })

  it('sets back the order', () => {
    const reordered = inverse(demo, { fields: [{ name: 'width' }, { name: 'wall' }] })
    expect(reordered.fields?.map((field) => field.name)).toEqual(['wall', 'width'])
  })

  it('sets back the answer', () => {
    expect(inverse(demo, { answer: { noun: 'pots' } })).toEqual({ answer: { noun: 'pieces' } })
  })
})
