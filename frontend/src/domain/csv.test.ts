import { expect, it } from 'vitest'
import { csvOf } from './csv'

it('a table is saved with its commas, quotes and lines, and no formula', () => {
  const rows = [
    ['a, "b"', 1.5, true],
    ['=1+1', -2, null],
    ['two\nlines', 0, false],
  ]
  expect(csvOf(['name', 'n', 'yes'], rows)).toBe('name,n,yes\r\n"a, ""b""",1.5,true\r\n\'=1+1,-2,\r\n"two\nlines",0,false\r\n')
})
