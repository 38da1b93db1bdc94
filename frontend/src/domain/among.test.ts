import { describe, expect, it } from 'vitest'
import type { Among, Field } from '../api/client'
import { dotsOf, lowerOf100, moved, stretchesOf, wholeView, zoomed } from './among'

const wall = { kind: 'number', name: 'wall', label: 'Wall', minimum: 0, maximum: 10 } as unknown as Field
const handle = { kind: 'yes_no', name: 'handle', label: 'Handle' } as unknown as Field
const walls: Among = { field: 'wall', of: 'cracks', x: [0, 2, 4, 8, null], y: [0.1, 0.2, 0.4, 0.8, 0.5], outcomes: null }
const handles: Among = { field: 'handle', of: 'cracks', x: [true, true, false], y: [0.2, 0.4, 0.9], outcomes: ['a', 'b', 'c'] }

describe('the view', () => {
  const whole = wholeView(wall, walls, 12)

  it('has room for the visitor’s own value', () => {
    expect(whole).toEqual({ from: 0, to: 12 })
    expect(wholeView(wall, { ...walls, x: [5] }, 5)).toEqual({ from: 4.5, to: 5.5 })
  })

  it('keeps the place it is zoomed around where it is', () => {
    const closer = zoomed(whole, whole, 3, true)
    expect(closer).toEqual({ from: 1.5, to: 7.5 })
    expect(zoomed(closer, whole, 3, false)).toEqual(whole)
  })

  it('never leaves the whole, nor shrinks to nothing', () => {
    expect(moved({ from: 9, to: 12 }, whole, 1)).toEqual({ from: 9, to: 12 })
    let view = whole
    for (let times = 0; times < 20; times += 1) view = zoomed(view, whole, 0, true)
    expect(view.to - view.from).toBeGreaterThan(0)
  })
})

it('shows the cases inside the view, and none without a value', () => {
  expect(dotsOf(wall, walls, { from: 0, to: 8 }).map((dot) => dot.across)).toEqual([0, 0.25, 0.5, 1])
  expect(dotsOf(wall, walls, { from: 1, to: 5 })).toHaveLength(2)
  const columns = dotsOf(handle, handles, wholeView(handle, handles, true))
  expect(columns.map((dot) => dot.across < 0.5)).toEqual([true, true, false])
  expect(columns.map((dot) => dot.outcome)).toEqual(['a', 'b', 'c'])
})

it('says in numbers what the chart shows', () => {
  expect(lowerOf100(walls, 5)).toBe(75)
  expect(lowerOf100(handles, true)).toBeNull()
  expect(stretchesOf(handle, handles, String)).toEqual([
    { words: 'Yes', count: 2, mean: expect.closeTo(0.3) },
    { words: 'No', count: 1, mean: 0.9 },
  ])
  expect(stretchesOf(wall, walls, String).reduce((sum, one) => sum + one.count, 0)).toBe(4)
})
