/** What known cases leave possible, in words. */
import type { ClassAnswer as Answer, ClassSetting } from '../../api/client'
import { listText } from '../../domain/format'

interface PossibleProps {
  answer: Answer
  setting: ClassSetting
  possible: NonNullable<Answer['possible']>
}

/** What known cases leave possible. Word and set follow one rule, at stated shares; a case unlike them has neither. */
export function Possible({ answer, setting, possible }: PossibleProps) {
  const times = Math.round(possible.coverage * 100)
  return (
    <p className="text-soft">
      {possibleWords(answer, setting, possible)} {times} of 100 times.
    </p>
  )
}

function possibleWords(answer: Answer, setting: ClassSetting, possible: NonNullable<Answer['possible']>): string {
  const labelOf = (name: string) => `“${setting.classes.find((wording) => wording.name === name)?.label ?? name}”`
  const [first = '', ...others] = possible.classes
  if (others.length === 0) return `Going by known cases only ${labelOf(first)} stays possible. What stays possible includes what really happens`
  const named = (wanted: string) => others.filter((_, at) => possible.words?.[at + 1] === wanted).map(labelOf)
  const [likely, alsoPossible, notRuledOut] = [named('likely'), named('possible'), named('not ruled out')]
  const words: string[] = []
  if (likely.length) words.push(`${listText(likely)} ${likely.length > 1 ? 'are' : 'is'} as likely`)
  if (alsoPossible.length) words.push(`${listText(alsoPossible)} ${alsoPossible.length > 1 ? 'are' : 'is'} possible too`)
  if (notRuledOut.length) words.push(`${listText(notRuledOut)} cannot be ruled out`)
  const isUnsure = answer.probabilities.length > 2 && possible.words?.[0] !== 'likely'
  return `${isUnsure ? 'It is unsure: nothing is more likely than not. ' : ''}${words.join('; ')}. What stays possible by known cases includes what really happens`
}
