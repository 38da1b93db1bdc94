import { describe, expect, it } from 'vitest'
import type { StarterLook } from '../../api/client'
import { foreseen, roleOf } from './starterWords'

const column = (name: string) => ({ name, kind: 'category' as const, n_distinct: 3, n_gaps: 0, examples: [] })

function looked(choices: StarterLook['choices'] = {}, used = ['clay']): StarterLook {
  const columns = ['verdict', 'batch', 'clay', 'outcome'].map(column)
  return { choices, again: '', used, done: [], compared: null, sheet: { n_rows: 100, columns, target: 'outcome', targets: [], answer: 'class', findings: [], group: 'batch' } } as unknown as StarterLook
}

describe('a choice', () => {
  it('shows before the server has looked', () => {
    const kept = foreseen(looked(), { keep: ['verdict'], drop: ['clay'] })
    expect(kept.used).toEqual(['verdict'])
    expect(roleOf('clay', kept)).toBe('left out')
    expect(roleOf('outcome', kept)).toBe('to be predicted')
  })
  it('leaves alone what it does not name', () => {
    expect(foreseen(looked({ drop: ['clay'] }, []), { group: '' }).choices).toEqual({ drop: ['clay'], group: '' })
  })
})
