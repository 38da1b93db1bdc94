/** One class of several: the headline, how likely in natural frequencies, what stays possible, and the marks. */
import { useState, type ReactNode } from 'react'
import type { ClassAnswer as Answer, ClassSetting } from '../../api/client'
import { countText, listText } from '../../domain/format'
import { otherShares, saidShare } from '../../domain/saidClass'
import { HundredMarks } from '../../parts/HundredMarks'
import { InlineMark, markOf } from '../../parts/Mark'
import { ClassRows } from './ClassRows'
import { percentText } from '../../domain/percent'
import { PercentSwitch } from './PercentSwitch'
import { Possible } from './PossibleClasses'
import { ThresholdWords } from './ThresholdWords'

/** Up to this many classes are shown as 100 marks, more as a row of marks each. */
export const MAX_CLASSES_AS_MARKS = 4

export interface ClassAnswerProps {
  answer: Answer
  setting: ClassSetting
  /** What must be read before any number is. */
  caution: ReactNode
}

export function ClassAnswer({ answer, setting, caution }: ClassAnswerProps) {
  const [isPercent, setIsPercent] = useState(false)
  const hasShares = answer.probabilities.length > 0
  const asMarks = setting.classes.length <= MAX_CLASSES_AS_MARKS
  const possible = !caution && answer.possible && hasShares ? <Possible answer={answer} setting={setting} possible={answer.possible} /> : null
  const percent = hasShares && <PercentSwitch isPercent={isPercent} onChange={setIsPercent} />
  return (
    <>
      <h2 id="answer-heading" className="mt-0.5 text-[1.9em] leading-tight font-bold" style={{ minHeight: `${linesOf(setting) * 1.25}em` }}>
        {answer.headline}
      </h2>
      {hasShares && <Sentence answer={answer} setting={setting} />}
      {hasShares && <ThresholdWords setting={setting} />}
      {/* What is unlike anything seen has no word on certainty: one stands where the other would. */}
      {!asMarks && (
        <div className="min-h-[3em] text-[0.94em]">
          {caution}
          {possible}
        </div>
      )}
      {hasShares && !asMarks && (
        <div className="mt-3">
          <ClassRows answer={answer} setting={setting} isPercent={isPercent} />
          {percent}
        </div>
      )}
      {asMarks && (
        <div className="mt-3 flex items-start gap-x-7 max-[479px]:gap-x-4">
          {hasShares && (
            <div className="w-40 shrink-0 max-[479px]:w-32">
              <HundredMarks answer={answer} setting={setting} />
            </div>
          )}
          <div className="min-w-0 flex-1">
            {hasShares && <ClassLegend answer={answer} setting={setting} isPercent={isPercent} />}
            {percent}
            <div className="mt-1 min-h-[4.5em] text-[0.94em]">
              {caution}
              {possible}
            </div>
          </div>
        </div>
      )}
    </>
  )
}

/** "72 of 100 pieces like this crack; 17 warp and 11 come out sound." */
function Sentence({ answer, setting }: { answer: Answer; setting: ClassSetting }) {
  const said = saidShare(answer)
  const others = otherShares(answer).filter((item) => item.of_100 > 0)
  if (!said) return null
  return (
    <p className="text-[1.06em] leading-snug">
      {answer.calibrated
        ? `${said.of_100} of 100 ${setting.noun} like this ${said.label}`
        : `The model puts it at ${said.of_100} of 100 ${setting.noun}`}
      {others.length > 0 && others.length <= 3 && (
        <span className="text-soft">; {listText(others.map((item) => countText(item.of_100, item.label)))}</span>
      )}
      .
    </p>
  )
}

/** So many lines have room for the longest headline: it must not push what stands below it while a value is dragged. */
function linesOf(setting: ClassSetting): number {
  return Math.max(...setting.classes.map((wording) => (wording.headline ?? wording.label ?? '').length)) > 30 ? 2 : 1
}

/** Which mark is which class, with its count. */
function ClassLegend({ answer, setting, isPercent }: { answer: Answer; setting: ClassSetting; isPercent: boolean }) {
  const names = setting.classes.map((wording) => wording.name)
  return (
    <ul className="space-y-1">
      {answer.probabilities.map((item) => {
        const index = names.indexOf(item.class)
        return (
          <li key={item.class} className="flex items-baseline gap-2">
            <InlineMark {...markOf(index, setting.classes[index])} />
            <span className="min-w-[1.6em] text-right font-bold whitespace-nowrap">{isPercent ? percentText(item.probability) : item.of_100}</span>
            <span className="min-w-0 break-words">{item.label}</span>
          </li>
        )
      })}
    </ul>
  )
}
