/** Rooms that a newcomer finds: no file of components is long, or about several things. */
import { describe, expect, it } from 'vitest'

const files = import.meta.glob<string>('./**/*.tsx', { query: '?raw', import: 'default', eager: true })
const MOST_LINES = 250
const MOST_COMPONENTS = 3
const COMPONENT = /^(?:export )?(?:default )?function [A-Z]\w*/gm

describe('files of components', () => {
  it('are there to be looked at', () => expect(Object.keys(files).length).toBeGreaterThan(50))

  it.each(Object.entries(files))('%s is short and about one thing', (_, text) => {
    expect(text.split('\n').length).toBeLessThanOrEqual(MOST_LINES)
    expect(text.match(COMPONENT)?.length ?? 0).toBeLessThanOrEqual(MOST_COMPONENTS)
  })
})
