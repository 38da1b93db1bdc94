import { describe, expect, it } from 'vitest'
import { entryText, parseNumber, readings, signsOf } from './numbers'

const [ENGLISH, GERMAN, FRENCH] = [signsOf('en-GB'), signsOf('de-DE'), signsOf('fr-FR')]

describe('parseNumber', () => {
  it.each([
    ['1,240', ENGLISH, 1240],
    ['1,240', GERMAN, 1.24],
    ['1.240', ENGLISH, 1.24],
    ['1.240', GERMAN, 1240],
    ['1,240', FRENCH, 1.24],
    ['7,6', ENGLISH, 7.6],
    ['7.6', GERMAN, 7.6],
    ['0,125', ENGLISH, 0.125],
    ['1.234.567', ENGLISH, 1234567],
    ['1,234,567.5', GERMAN, 1234567.5],
    ['1.234,5', ENGLISH, 1234.5],
    ['1 240', ENGLISH, 1240],
    ['1 240,5', FRENCH, 1240.5],
    ["1'240", ENGLISH, 1240],
    ['−3,5', ENGLISH, -3.5],
    ['1e3', ENGLISH, 1000],
  ])('reads %j', (text, signs, value) => expect(parseNumber(text, signs)).toBe(value))

  it.each(['', 'abc', '1,2,3', '1.2.3', '12 3', '1,24,5', '--2', '1,234.567.8'])('does not read %j', (text) => expect(parseNumber(text, ENGLISH)).toBeNull())
})

describe('readings', () => {
  it('are two only where three digits follow one sign', () => {
    expect(readings('1,240')).toEqual([1240, 1.24])
    expect(readings('41.006')).toEqual([41006, 41.006])
    expect(readings('0,125')).toBeNull()
    expect(readings('7,6')).toBeNull()
    expect(readings('1240')).toBeNull()
  })
})

it.each([ENGLISH, GERMAN, FRENCH])('what is put into a field reads back as it was meant', (signs) => {
  for (const value of [1.125, -0.5, 1240, 1234.567, 1e-7]) expect(parseNumber(entryText(value, signs), signs)).toBe(value)
})
