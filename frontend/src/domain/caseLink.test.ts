import { expect, it } from 'vitest'
import type { Field } from '../api/client'
import { caseFragment, readCaseFragment } from './caseLink'

const fields = [
  { name: 'wall', kind: 'number', label: 'Wall', default: 7.6, minimum: 3, maximum: 18 },
  { name: 'glaze', kind: 'choice', label: 'Glaze', default: 'clear', options: [] },
  { name: 'note', kind: 'text', label: 'Note', default: null },
  { name: 'handle', kind: 'yes_no', label: 'Handle', default: false },
] as unknown as Field[]

it('brings back exactly what stood in the form', () => {
  const values = { wall: '14.5', glaze: 'Ölglasur 釉', note: 'foot cracked & rim?', handle: null }
  const fragment = caseFragment(values)
  expect(fragment).toMatch(/^#case=[A-Za-z0-9_-]+$/)
  expect(readCaseFragment(fragment, fields)).toEqual(values)
})

it('outlives edits of the page', () => {
  const fragment = caseFragment({ wall: '9', gone: 'x' })
  expect(readCaseFragment(fragment, fields)).toEqual({ wall: '9', glaze: 'clear', note: '', handle: false })
})

it.each(['', '#trust', '#case=', '#case=%%%', '#case=bm90IGpzb24', `#case=${btoa('[1]').slice(0, 3)}`, `#case=${btoa('null')}`])(
  'reads nothing from %s',
  (fragment) => {
    expect(readCaseFragment(fragment, fields)).toBeNull()
  },
)
