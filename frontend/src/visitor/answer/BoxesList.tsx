/** The boxes in words, best first. One that is pressed lights up in the picture, and the other way round. */
import { useContext, useEffect, useRef } from 'react'
import type { Inputs } from '../../api/client'
import { whereWords, type NumberedBox } from '../../domain/boxes'
import { InlineMark } from '../../parts/Mark'
import { ToneSign } from '../../parts/ToneSign'
import { BoxesContext, markOfBox, type BoxesView } from '../pictures/boxesView'
import { SaveBoxes } from './SaveBoxes'

export function BoxesList({ inputs }: { inputs: Inputs }) {
  const view = useContext(BoxesContext)
  const list = useRef<HTMLOListElement>(null)
  const chosen = view?.chosen ?? null
  // The list scrolls by itself; what was pressed in the picture must be in sight.
  useEffect(() => {
    if (chosen !== null) list.current?.querySelector(`[data-number="${chosen}"]`)?.scrollIntoView({ block: 'nearest' })
  }, [chosen])
  if (!view) return null
  const { shown, setting } = view
  return (
    <section aria-label={`What was found: ${setting.noun ?? 'things'}`} className="text-[0.94em]">
      {shown.length > 0 && (
        <>
          <p className="text-[0.9em] text-soft">Behind each stands how sure the model says it is. No known pictures bear that out.</p>
          <ol ref={list} className="found-list mt-1" aria-label="What was found, best score first" tabIndex={-1}>
            {shown.map((one) => (
              <Row key={one.number} one={one} view={view} />
            ))}
          </ol>
        </>
      )}
      <SaveBoxes inputs={inputs} view={view} />
    </section>
  )
}

function Row({ one: { number, box }, view: { answer, setting, chosen, onChoose } }: { one: NumberedBox; view: BoxesView }) {
  const isChosen = number === chosen
  const tone = setting.labels.find((label) => label.name === box.name)?.tone
  return (
    <li className="card-line" data-number={number}>
      <button
        type="button"
        aria-pressed={isChosen}
        className={`grid w-full grid-cols-[1.6rem_minmax(0,1fr)_auto] items-baseline gap-x-2 py-1.5 text-left ${isChosen ? 'bg-glass-pale font-bold' : ''}`}
        onClick={() => onChoose(isChosen ? null : number)}
      >
        <span className="text-right text-soft tabular-nums">{number}</span>
        <span className="min-w-0 break-words">
          <InlineMark {...markOfBox(setting, box.name)} /> {box.label}
          {tone && (
            <>
              {' '}
              <ToneSign tone={tone} />
            </>
          )}
          <span className="text-[0.92em] font-normal text-soft">, {whereWords(box, answer)}</span>
        </span>
        <span className="tabular-nums">{box.of_100} of 100</span>
      </button>
    </li>
  )
}
