/** The likeliest of more than four classes: a row of marks each, one mark for one of 100. */
import type { ClassAnswer, ClassSetting } from '../../api/client'
import { SHAPES } from '../../parts/Mark'
import { Tally, type TallyShape } from '../../parts/Tally'
import { percentText } from '../../domain/percent'

export const ROWS_SHOWN = 5
/** The likeliest is told at a glance; the others have the classes' own marks. */
const ROW_SHAPES: TallyShape[] = ['stroke', 'ring', 'diamond', 'triangle', 'square']

export interface ClassRowsProps {
  answer: ClassAnswer
  setting: ClassSetting
  isPercent: boolean
}

/** The five likeliest; the rest in one line, so that all of them make 100. */
export function ClassRows({ answer, setting, isPercent }: ClassRowsProps) {
  const shown = answer.probabilities.slice(0, ROWS_SHOWN)
  const rest = answer.probabilities.slice(ROWS_SHOWN)
  const of100 = rest.reduce((sum, item) => sum + item.of_100, 0)
  const probability = rest.reduce((sum, item) => sum + item.probability, 0)
  return (
    <div>
      <ul className="space-y-1.5" aria-label={`The likeliest of ${setting.classes.length}, of 100`}>
        {shown.map((item, at) => (
          <li key={item.class} className="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-x-3 min-[480px]:grid-cols-[34%_minmax(0,1fr)_auto]">
            <span className={`min-w-0 leading-snug ${at === 0 ? 'font-bold' : ''}`}>{item.label}</span>
            <span className={`order-3 col-span-2 pt-1.5 min-[480px]:order-none min-[480px]:col-span-1 ${at === 0 ? 'text-glass' : 'text-soft'}`}>
              <Tally count={item.of_100} shape={ROW_SHAPES[at] ?? SHAPES[0]} isFine />
            </span>
            <span className="min-w-[2.2em] text-right">
              {isPercent ? percentText(item.probability) : item.of_100}
              {!isPercent && <span className="sr-only"> of 100</span>}
            </span>
          </li>
        ))}
      </ul>
      {rest.length > 0 && (
        <p className="mt-1.5 flex justify-between gap-3 text-soft">
          <span>{rest.length === 1 ? rest[0]?.label : `${rest.length} others together`}</span>
          <span>
            {isPercent ? percentText(probability) : of100}
            {!isPercent && <span className="sr-only"> of 100</span>}
          </span>
        </p>
      )}
    </div>
  )
}
