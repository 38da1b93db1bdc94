import { describe, expect, it } from 'vitest'
import { assign, slotOf } from './fileKinds'

describe('a file is told by its first bytes, then by its name', () => {
  it.each([
    ['forest.joblib', '\x80\x04\x95', 'model'],
    ['what-is-this', '\x80\x05\x95', 'model'],
    ['booster.json', '{"learner":{"attributes":{}', 'model'],
    ['rows.json', '[{"wall": 3}]', 'reference'],
    ['lgbm.txt', 'tree\nversion=v4\n', 'model'],
    ['classes.txt', 'sound\nwarps\n', 'labels'],
    ['firings.txt', 'kiln;pots;peak\n', 'reference'],
    ['kilns.parquet', 'PAR1', 'reference'],
    ['test_set.csv', 'wall,days\n', 'known'],
    ['tiles.zip', 'PK\x03\x04', 'known'],
    ['kilns.xlsx', 'PK\x03\x04', 'reference'],
    ['scaler.pkl', '\x80\x04', 'preprocessor'],
    ['firing.pmml', '<?xml version="1.0"?><PMML version="4.4">', 'model'],
    ['predict.py', 'import numpy', 'model'],
    ['glaze.pt', 'PK\x03\x04', 'model'],
    ['glaze.safetensors', '\x58\0\0\0\0\0\0\0{"a"', 'model'],
    ['stuff.zip', 'PK\x03\x04'.padEnd(30, '\0') + 'weights.npy', 'beside'],
    ['tiles.zip', 'PK\x03\x04'.padEnd(30, '\0') + 'even/tile-1.png', 'known'],
    ['requirements.txt', 'pandas\n', 'requirements'],
    ['versions.txt', 'numpy==1.26.4\npandas>=2\n', 'requirements'],
    ['freeze.txt', 'ÿþs\0i\0x\0=\0=\x001\0', 'requirements'],
    ['readme.md', '# Notes', null],
  ])('%s', (name, head, slot) => expect(slotOf(name, head)).toBe(slot))
})

describe('files find their places together', () => {
  const file = (name: string, head = '') => ({ file: { name }, head })
  const names = (found: ReturnType<typeof assign>) => Object.fromEntries([...found.slots].map(([slot, { name }]) => [slot, name]))

  it('of two tables the second holds the known cases', () => {
    const found = assign([file('a.csv'), file('b.csv'), file('m.joblib')], new Set())
    expect(names(found)).toEqual({ reference: 'a.csv', known: 'b.csv', model: 'm.joblib' })
  })
  it('beside a network a Python file has its classes', () => {
    expect(names(assign([file('network.py', 'import torch'), file('weights.pt', 'PK\x03\x04')], new Set()))).toEqual({ beside: 'network.py', model: 'weights.pt' })
  })
  it('what has no place is left', () => {
    const found = assign([file('a.csv'), file('b.csv'), file('c.csv'), file('notes.md')], new Set())
    expect(found.left.map(({ name }) => name)).toEqual(['c.csv', 'notes.md'])
  })
  it('what is there stays there, and a preprocessor alone is the model', () => {
    expect(names(assign([file('a.csv')], new Set(['reference'])))).toEqual({ known: 'a.csv' })
    expect(names(assign([file('preprocessing_and_model.pkl')], new Set()))).toEqual({ model: 'preprocessing_and_model.pkl' })
  })
})
