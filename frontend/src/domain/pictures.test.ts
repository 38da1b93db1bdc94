import { describe, expect, it } from 'vitest'
import { partsOf, WHOLE } from '../api/picture'
import type { Field } from '../api/client'
import { caseFragment, readCaseFragment } from './caseLink'
import { dragged, moved, sized } from './cut'
import { largestError, strengths } from './regions'

const picture = { kind: 'picture', name: 'tile', label: 'Tile', preparation: { width: 8, height: 8 } } as Field

describe('a cut-out', () => {
  it('is what lies between two places, whichever way it was drawn', () => {
    const cut = dragged({ x: 0.75, y: 0.5 }, { x: 0.25, y: 0.125 })
    expect(cut).toEqual({ left: 0.25, top: 0.125, width: 0.5, height: 0.375 })
    expect(dragged({ x: 0.5, y: 0.5 }, { x: 2, y: -1 })).toEqual({ left: 0.5, top: 0, width: 0.5, height: 0.5 })
  })
  it('is the whole picture after a mere click', () => {
    expect(dragged({ x: 0.5, y: 0.5 }, { x: 0.505, y: 0.9 })).toBe(WHOLE)
  })
  it('never leaves the picture, however far it is moved or sized', () => {
    const cut = { left: 0.5, top: 0.5, width: 0.25, height: 0.25 }
    expect(moved(cut, 1, -1)).toEqual({ ...cut, left: 0.75, top: 0 })
    expect(sized(cut, 1, -1)).toEqual({ ...cut, width: 0.5, height: 0.02 })
  })
})

describe('a request', () => {
  it('is a form with a file in it, and says what is cut out only if something is', () => {
    const file = new Blob(['x'])
    const cut = { left: 0.5, top: 0, width: 0.5, height: 1 }
    const { body, isForm } = partsOf({ tile: { file, cut, turn: 90 }, wall: 7 })
    expect(isForm).toBe(true)
    const form = body as FormData
    expect(JSON.parse(form.get('inputs') as string)).toEqual({ tile: { ...cut, turn: 90 }, wall: 7 })
    expect(form.get('tile')).toBeInstanceOf(Blob)
  })
  it('is JSON for a sample or strokes', () => {
    const strokes = [[[0.1, 0.2, 0.5] as [number, number, number]]]
    expect(partsOf({ tile: { sample: '0.tile', cut: WHOLE, turn: 0 } }).body).toEqual({ inputs: { tile: { sample: '0.tile' } } })
    expect(partsOf({ tile: { strokes, cut: WHOLE, turn: 0 } }).body).toEqual({ inputs: { tile: { strokes } } })
  })
})

describe('a link to a case', () => {
  it('carries a sample and what is cut out of it', () => {
    const value = { sample: '0.tile', cut: { left: 0, top: 0, width: 0.5, height: 1 }, turn: 90 as const }
    expect(readCaseFragment(caseFragment({ tile: value }), [picture])).toEqual({ tile: value })
  })
  it('leaves a visitor’s own picture out', () => {
    const fragment = caseFragment({ tile: { file: new Blob(['x']), cut: WHOLE, turn: 0 } })
    expect(readCaseFragment(fragment, [picture])).toEqual({ tile: null })
  })
})

describe('where it looked', () => {
  const where = { parts: 'patches', errors: [0.01, 0.2], regions: [{ words: 'centre', contribution: 0.3, error: 0.05 }] }
  it('states the error of what is listed', () => {
    expect(largestError(where as never)).toBe(0.05)
    expect(largestError({ ...where, regions: [{ words: 'centre', contribution: 0.3, error: null }] } as never)).toBeNull()
    expect(largestError({ ...where, parts: 'strokes' } as never)).toBe(0.2)
  })
  it('shows every part beside the strongest', () => {
    expect(strengths([0.1, -0.4, 0])).toEqual([0.25, -1, 0])
    expect(strengths([0, 0])).toEqual([0, 0])
    expect(strengths([0.001, -0.002], 0.02)).toEqual([0.05, -0.1])
  })
})
