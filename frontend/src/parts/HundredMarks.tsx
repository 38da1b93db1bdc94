/** 100 small marks in rows of ten: how many of 100 each class gets. */
import { memo } from 'react'
import type { ClassAnswer, ClassSetting } from '../api/client'
import { markOf, shapePath, type Shape } from './Mark'

const CELL = 20
const RADIUS = 6.5
/** Fives stand a little apart, as in a tally. */
const GAP = 8

export interface HundredMarksProps {
  answer: ClassAnswer
  setting: ClassSetting
}

/** Likeliest first, row by row. Said in words to whoever does not see it. */
export const HundredMarks = memo(function HundredMarks({ answer, setting }: HundredMarksProps) {
  const names = setting.classes.map((wording) => wording.name)
  const marks = answer.probabilities.flatMap((item) => {
    const index = names.indexOf(item.class)
    return Array.from({ length: item.of_100 }, () => markOf(index, setting.classes[index]))
  })
  const words = answer.probabilities.map((item) => `${item.of_100} ${item.label}`).join(', ')
  return (
    <svg viewBox={`0 0 ${CELL * 10 + GAP} ${CELL * 10}`} role="img" aria-label={`Of 100: ${words}`} className="drawn block w-full">
      {marks.map(({ shape, colour }, at) => (
        // A mark has no identity but its place.
        <path key={at} d={pathAt(shape, at)} fill={colour} fillRule="evenodd" />
      ))}
    </svg>
  )
}, isSame)

/** A drag brings thirty answers a second, many of which say the same of 100. */
function isSame(before: HundredMarksProps, after: HundredMarksProps): boolean {
  const [one, other] = [before.answer.probabilities, after.answer.probabilities]
  return (
    before.setting === after.setting &&
    one.length === other.length &&
    one.every((item, at) => item.class === other[at]?.class && item.of_100 === other[at].of_100 && item.label === other[at].label)
  )
}

const paths = new Map<string, string>()

/** The mark of a shape at one of the hundred places, made once. */
function pathAt(shape: Shape, at: number): string {
  const key = `${shape} ${at}`
  const known = paths.get(key)
  if (known) return known
  const x = (at % 10) * CELL + CELL / 2 + (at % 10 >= 5 ? GAP : 0)
  const y = Math.floor(at / 10) * CELL + CELL / 2
  const path = shapePath(shape, x, y, RADIUS)
  paths.set(key, path)
  return path
}
