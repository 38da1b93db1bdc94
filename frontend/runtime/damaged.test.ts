/** A file that is not what was written is refused in words, wherever it was touched. */
import { describe, expect, it } from 'vitest'
import written from '../../tests/vectors/operations.json'
import { ModelDamaged, ValueNotKnown } from './errors'
import { CompiledModel } from './model'
import { pythonPattern } from './patterns'
import { Sha256 } from './sha256'

function contentOf(name: string): Uint8Array {
  const model = written.find((vector) => vector.name === name)?.model ?? ''
  return Uint8Array.from(atob(model), (sign) => sign.charCodeAt(0))
}

function sumOf(text: string): string {
  return new Sha256().update(new TextEncoder().encode(text)).digest()
}

describe('a file', () => {
  const whole = contentOf('forest by sets')

  it('is read as it was written', () => expect(new CompiledModel(whole).nOutputs).toBe(2))

  it('is refused wherever a byte of it is another', () => {
    for (let at = 0; at < whole.length; at += 1) {
      const touched = Uint8Array.from(whole)
      touched[at] = (touched[at] ?? 0) ^ 1
      expect(() => new CompiledModel(touched), `byte ${at}`).toThrow(ModelDamaged)
    }
  })

  it('is refused wherever it was cut short', () => {
    for (let length = 0; length < whole.length; length += 11) {
      expect(() => new CompiledModel(whole.subarray(0, length)), `${length} bytes`).toThrow(ModelDamaged)
    }
  })

  it('is told for what it is when it is something else', () => {
    expect(() => new CompiledModel(new TextEncoder().encode('<!doctype html><title>A kiln</title>'))).toThrow(/no compiled model/)
  })
})

describe('a value', () => {
  it('that the original refuses is named', () => {
    const vector = written.find(({ name }) => name === 'codes that refuse strangers')
    const model = new CompiledModel(contentOf('codes that refuse strangers'))
    expect(model.predict({ clay: ['raku'] }).data[0]).toBe(1)
    expect(() => model.predict({ clay: ['porcelain', 'bone'] })).toThrow(ValueNotKnown)
    expect(() => model.predict({ clay: ['bone'] })).toThrow(/does not know the value bone of clay\. It knows porcelain, raku/)
    expect(vector?.outputs).toEqual([[0], [1]])
  })
})

describe('columns', () => {
  it('that are missing, or of another length, are named', () => {
    const model = new CompiledModel(contentOf('forest'))
    expect(() => model.predict({ a: [1] })).toThrow('The column `b` is missing.')
    expect(() => model.predict({ a: [1, 2], b: [1] })).toThrow('`b` has 1 rows, and `a` 2.')
    expect(model.predict({ a: [], b: [] }).rows).toBe(0)
  })
})

describe('a sum', () => {
  // FIPS 180-4's own examples, and one that ends where a block does.
  it.each([
    ['abc', 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad'],
    ['', 'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855'],
    ['abcdbcdecdefdefgefghfghighijhijkijkljklmklmnlmnomnopnopq', '248d6a61d20638b8e5c026930c3e6039a33ce45964ff2167f6ecedd419db06c1'],
  ])('of %j', (text, sum) => expect(sumOf(text)).toBe(sum))

  it('is the same however it comes in parts', () => {
    const bytes = new TextEncoder().encode('clay '.repeat(61))
    const parts = new Sha256()
    for (let at = 0; at < bytes.length; at += 13) parts.update(bytes.subarray(at, at + 13))
    expect(parts.digest()).toBe(new Sha256().update(bytes).digest())
  })
})

describe('a pattern', () => {
  it.each([
    [String.raw`(?u)\b\w\w+\b`, 'Töpfe im Ofen, a 12', ['Töpfe', 'im', 'Ofen', '12']],
    [String.raw`[^\W\d_]+`, 'a1b_ç2', ['a', 'b', 'ç']],
    [String.raw`[\W]+`, 'clay, slip', [', ']],
    [String.raw`(?i)KILN-\d+`, 'kiln-7 Kiln-x', ['kiln-7']],
    [String.raw`[]a]+`, 'a]b', ['a]']],
    [String.raw`(?P<pot>p\w+)`, 'pots and jugs', ['pots']],
  ])('%s finds what Python finds', (pattern, text, found) => {
    expect(Array.from(text.matchAll(pythonPattern(pattern)), ([match]) => match)).toEqual(found)
  })

  it('that asks for more than is read here is refused', () => {
    expect(() => pythonPattern(String.raw`(?<=a)(?(1)b|c)`)).toThrow(ModelDamaged)
  })
})
