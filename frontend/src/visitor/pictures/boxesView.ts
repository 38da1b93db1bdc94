/** Which boxes of the answer are shown, and which of them is looked at; shared by the picture and the list beside it. */
import { createContext, useCallback, useMemo, useState } from 'react'
import type { BoxesAnswer, BoxesSetting, Page } from '../../api/client'
import { shownBoxes, type NumberedBox } from '../../domain/boxes'
import { markOf, type Shape } from '../../parts/Mark'
import type { AnswerState } from '../case/answerLine'

export interface BoxesView {
  answer: BoxesAnswer
  setting: BoxesSetting
  shown: NumberedBox[]
  leastScore: number
  /** Kinds that are switched off, by their names in the model. */
  off: ReadonlySet<string>
  /** The number of the box that is looked at; null for none. */
  chosen: number | null
  onLeastScore: (score: number) => void
  onSwitch: (name: string, isOn: boolean) => void
  onChoose: (number: number | null) => void
}

export const BoxesContext = createContext<BoxesView | null>(null)

/** No slider goes below this: what a model has no idea of at all is found everywhere. */
export const LOWEST_SCORE = 0.05

/**
 * @param onLower called when lower scores are wanted than were asked for
 */
export function useBoxesView(page: Page, state: AnswerState, onLower: (score: number) => void): BoxesView | null {
  const setting = page.answer.kind === 'boxes' ? page.answer : null
  const [own, setOwn] = useState<number | null>(null)
  const [off, setOff] = useState<ReadonlySet<string>>(NONE)
  const answer = state.status === 'answered' && state.answer.answer.kind === 'boxes' ? state.answer.answer : null
  // What was chosen in one picture says nothing of another's boxes.
  const [choice, setChoice] = useState<{ of: BoxesAnswer | null; number: number | null }>({ of: null, number: null })
  const leastScore = own ?? setting?.least_score ?? 0.3
  const asked = answer?.least_score ?? 0
  const onLeastScore = useCallback(
    (score: number) => {
      setOwn(score)
      if (score < asked) onLower(Math.min(score, LOWEST_SCORE))
    },
    [asked, onLower],
  )
  const onSwitch = useCallback((name: string, isOn: boolean) => setOff((before) => new Set(isOn ? [...before].filter((one) => one !== name) : [...before, name])), [])
  return useMemo(() => {
    if (!answer || !setting) return null
    const shown = shownBoxes(answer, leastScore, off)
    const chosen = choice.of === answer && shown.some((one) => one.number === choice.number) ? choice.number : null
    return { answer, setting, shown, leastScore, off, chosen, onLeastScore, onSwitch, onChoose: (number) => setChoice({ of: answer, number }) }
  }, [answer, setting, leastScore, off, choice, onLeastScore, onSwitch])
}

const NONE: ReadonlySet<string> = new Set()

/** A kind's mark: a shape and a shade, as its place among the demo's kinds has it. */
export function markOfBox(setting: BoxesSetting, name: string): { shape: Shape; colour: string } {
  const at = setting.labels.findIndex((one) => one.name === name)
  const index = at < 0 ? setting.labels.length : at
  return markOf(index, setting.labels[index] ? { tone: setting.labels[index].tone ?? '' } : undefined)
}
