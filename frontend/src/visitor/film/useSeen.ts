/** Which boxes of a film are shown, over all its frames; of every other answer this is idle. */
import { useCallback, useMemo, useState } from 'react'
import type { BoxesAnswer, FilmFrame, Page } from '../../api/client'
import { shownBoxes } from '../../domain/boxes'
import type { Seen } from '../../domain/films'
import { LOWEST_SCORE, type BoxesView } from '../pictures/boxesView'

export interface SeenBoxes {
  seen: Seen
  /** What is seen of a frame of this size; null where the answer is no boxes. */
  viewOf: (frame: FilmFrame | null, size: { width: number; height: number }) => BoxesView | null
}

export function useSeen(page: Page): SeenBoxes {
  const setting = page.answer.kind === 'boxes' ? page.answer : null
  const [leastScore, setLeastScore] = useState(setting?.least_score ?? 0.3)
  const [off, setOff] = useState<ReadonlySet<string>>(new Set())
  const [chosen, setChosen] = useState<number | null>(null)
  const onSwitch = useCallback((name: string, isOn: boolean) => setOff((before) => new Set(isOn ? [...before].filter((one) => one !== name) : [...before, name])), [])
  const seen = useMemo(() => ({ leastScore, off }), [leastScore, off])
  const viewOf = useCallback(
    (frame: FilmFrame | null, { width, height }: { width: number; height: number }): BoxesView | null => {
      if (!setting) return null
      const answer: BoxesAnswer = { kind: 'boxes', boxes: frame?.boxes ?? [], width, height, least_score: LOWEST_SCORE }
      return { answer, setting, shown: shownBoxes(answer, leastScore, off), leastScore, off, chosen, onLeastScore: setLeastScore, onSwitch, onChoose: setChosen }
    },
    [setting, leastScore, off, chosen, onSwitch],
  )
  return { seen, viewOf }
}
