/** What was found in a picture: how many, which, and where; a slider for the least score, a switch for each kind. */
import { useContext, type ReactNode } from 'react'
import { foundWords, kindsWords } from '../../domain/boxes'
import { ofHundred } from '../../domain/ofHundred'
import { BoxesContext } from '../pictures/boxesView'
import { Kinds, LeastScore } from './BoxesControls'

export interface BoxesAnswerProps {
  /** What must be read before any number is. */
  caution: ReactNode
}

export function BoxesAnswer({ caution }: BoxesAnswerProps) {
  const view = useContext(BoxesContext)
  if (!view) return null
  const { setting, shown, leastScore } = view
  const from = ofHundred(leastScore)
  return (
    <>
      <h2 id="answer-heading" className="mt-1 text-[1.7em] leading-tight font-bold" data-testid="found">
        {foundWords(shown.length, setting.noun ?? 'things', setting.noun_one ?? 'thing')}
      </h2>
      <p className="mt-1 min-h-[2.8em] text-soft">
        {shown.length > 0 ? `${kindsWords(shown.map((one) => one.box), setting)}, at a score of ${from} of 100 or more.` : `Nothing that is shown has a score of ${from} of 100 or more. That is no proof that there is nothing.`}
      </p>
      {caution}
      <LeastScore view={view} />
      {setting.labels.length > 1 && <Kinds view={view} />}
    </>
  )
}
