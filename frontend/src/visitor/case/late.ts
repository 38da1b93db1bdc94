/** Whether something has been old for so long that the page must not show it as current. */
import { useEffect, useState } from 'react'
import type { AnswerState } from './answerLine'

/** A third of a second is a pause that people notice. */
const LATE_MS = 300

/** How what is no longer the newest looks: dimmed for the moment until the new one is there; where that may last, without
 * colour, which can be read for as long as it stands. */
export function fadeOf(state: AnswerState, isLate: boolean): string {
  if (!isLate || state.status !== 'answered') return ''
  return state.isHeld || state.delay !== undefined ? 'grayscale' : 'opacity-45'
}

/** True once `isOld` has lasted; `key` is what is shown, which starts the time anew when it changes. */
export function useLate(isOld: boolean, key: unknown): boolean {
  const [late, setLate] = useState<{ key: unknown } | null>(null)
  // Time is outside React.
  useEffect(() => {
    if (!isOld) return
    const timer = setTimeout(() => setLate({ key }), LATE_MS)
    return () => clearTimeout(timer)
  }, [isOld, key])
  return isOld && late !== null && late.key === key
}
