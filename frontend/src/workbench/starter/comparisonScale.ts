/** Where an error lies on the line, in hundredths of its width. Pure. */
import { scaleLinear } from 'd3-scale'
import type { Comparison } from '../../api/client'

/** From nothing to a little beyond the largest interval: lengths can be compared with each other. */
export function comparisonScale({ tried }: Comparison): (error: number) => number {
  const most = Math.max(...tried.map(({ high }) => high))
  return scaleLinear([0, most * 1.04 || 1], [0, 100])
}
