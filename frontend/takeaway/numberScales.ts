/**
 * What the page asks of `d3-scale`: straight lines from numbers to numbers. That package brings colours, dates, ticks and
 * formats along, a tenth of all that a file weighs; here it stands in its place.
 */
type Ends = [number, number]

interface StraightLine {
  (value: number): number
  clamp: (isClamped: boolean) => StraightLine
}

/** From one end of `domain` to the other as from one end of `range` to the other; the middle where the domain has no width, as in d3. */
export function scaleLinear([from, to]: Ends, [start, end]: Ends): StraightLine {
  let isClamped = false
  const line = (value: number) => {
    const share = to === from ? 0.5 : (value - from) / (to - from)
    const kept = isClamped ? Math.max(0, Math.min(1, share)) : share
    return start * (1 - kept) + end * kept
  }
  const scale: StraightLine = Object.assign(line, { clamp: (given: boolean) => ((isClamped = given), scale) })
  return scale
}
