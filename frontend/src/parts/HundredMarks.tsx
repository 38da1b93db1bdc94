/** 100 small marks in rows of ten: how many of 100 each class gets. */
import type { ClassAnswer, ClassSetting } from '../api/client'
import { Mark, markOf } from './Mark'

const CELL = 20
/** Fives stand a little apart, as in a tally. */
const GAP = 8

export interface HundredMarksProps {
  answer: ClassAnswer
  setting: ClassSetting
}

/** Likeliest first, row by row. Said in words to whoever does not see it. */
export function HundredMarks({ answer, setting }: HundredMarksProps) {
  const names = setting.classes.map((wording) => wording.name)
  const cells = answer.probabilities.flatMap((item) => {
    const index = names.indexOf(item.class)
    return Array.from({ length: item.of_100 }, () => ({ index, ...markOf(index, setting.classes[index]) }))
  })
  const words = answer.probabilities.map((item) => `${item.of_100} ${item.label}`).join(', ')
  return (
    <svg viewBox={`0 0 ${CELL * 10 + GAP} ${CELL * 10}`} role="img" aria-label={`Of 100: ${words}`} className="drawn block w-full">
      {cells.map(({ shape, colour }, at) => (
        <Mark
          // A mark has no identity but its place.
          key={at}
          shape={shape}
          colour={colour}
          x={(at % 10) * CELL + CELL / 2 + (at % 10 >= 5 ? GAP : 0)}
          y={Math.floor(at / 10) * CELL + CELL / 2}
          radius={6.5}
        />
      ))}
    </svg>
  )
}
