import { scaleLinear as ofD3 } from 'd3-scale'
import { expect, test } from 'vitest'
import { scaleLinear } from './numberScales'

test.each<[[number, number], [number, number]]>([
  [[0, 1], [8, 292]],
  [[-3.5, 18], [292, 8]],
  [[5, 5], [0, 100]],
])('lines from %j to %j are those of d3', (domain, range) => {
  for (const value of [-20, -3.5, 0, 0.3, 1, 5, 17.9, 1000]) {
    expect(scaleLinear(domain, range)(value)).toBeCloseTo(ofD3(domain, range)(value), 9)
    expect(scaleLinear(domain, range).clamp(true)(value)).toBeCloseTo(ofD3(domain, range).clamp(true)(value), 9)
  }
})
