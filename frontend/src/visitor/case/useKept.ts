/** Answers kept to compare. */
import { useCallback, useState } from 'react'
import type { AnswerState } from './answerLine'
import type { KeptAnswer } from '../answer/Kept'

export function useKept(state: AnswerState, brought: KeptAnswer[]) {
  const [kept, setKept] = useState<KeptAnswer[]>(brought)
  const keep = useCallback(() => {
    if (state.status !== 'answered' || state.isStale) return
    const { inputs, answer } = state
    setKept((before) => [...before, { number: (before.at(-1)?.number ?? 0) + 1, inputs, answer: answer.answer, release: answer.release }])
  }, [state])
  const drop = useCallback((number: number) => setKept((before) => before.filter((one) => one.number !== number)), [])
  return { kept, keep, drop }
}
