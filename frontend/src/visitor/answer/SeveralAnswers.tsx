/** Several numbers, or several labels: a line each, and one of them chosen for what the page explains. */
import { useState, type ReactNode } from 'react'
import type { Answer, Page } from '../../api/client'
import { listText } from '../../domain/format'
import { percentText } from '../../domain/percent'
import { PercentSwitch } from './PercentSwitch'

export interface SeveralProps<Kind extends Answer['kind']> {
  page: Page
  answer: Extract<Answer, { kind: Kind }>
  /** What must be read before any number is. */
  caution: ReactNode
  /** The one that is explained now; null before anything is. */
  chosen: string | null
  onChoose: (name: string) => void
}

export function SeveralNumbers({ page, answer, caution, chosen, onChoose }: SeveralProps<'numbers'>) {
  return (
    <>
      <h2 id="answer-heading" className="mt-1 text-[1.4em] font-bold">
        The answers
      </h2>
      {caution}
      <ul className="mt-2">
        {answer.values.map((item) => (
          <li key={item.name} className="card-line grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4 py-2">
            <Chooser page={page} name={item.name} label={item.name} isChosen={item.name === chosen} onChoose={onChoose} />
            <span className="text-right">
              <span className="text-[1.3em] font-bold">{item.text}</span> {item.unit}
            </span>
            {item.interval && (
              <span className="col-span-2 text-right text-[0.9em] text-soft">
                usually within ±{item.interval.text} {item.unit} ({Math.round(item.interval.coverage * 100)} of 100 times)
              </span>
            )}
          </li>
        ))}
      </ul>
    </>
  )
}

export function SeveralLabels({ page, answer, caution, chosen, onChoose }: SeveralProps<'labels'>) {
  const [isPercent, setIsPercent] = useState(false)
  const setting = page.answer.kind === 'labels' ? page.answer : null
  const hasShares = setting?.gives_probabilities !== false
  const applying = answer.labels.filter((item) => item.applies).map((item) => item.label)
  return (
    <>
      <h2 id="answer-heading" className="mt-1 text-[1.7em] leading-tight font-bold first-letter:uppercase">
        {applying.length === 0 ? 'None of them applies' : listText(applying)}
      </h2>
      {caution}
      <ul className="mt-3">
        {answer.labels.map((item) => {
          const from = Math.round((setting?.labels.find((wording) => wording.name === item.name)?.threshold ?? 0.5) * 100)
          return (
            <li key={item.name} className="card-line grid grid-cols-[1.6rem_minmax(0,1fr)_auto] items-baseline gap-x-3 py-2">
              <span className={item.applies ? 'text-glass' : 'text-soft'} aria-hidden="true">
                {item.applies ? '✓' : '–'}
              </span>
              <Chooser page={page} name={item.name} label={item.label} isChosen={item.name === chosen} onChoose={onChoose} />
              <span className="text-right max-[479px]:col-span-2 max-[479px]:col-start-2 max-[479px]:text-left">
                <span className={item.applies ? 'font-bold' : ''}>{item.applies ? 'yes' : 'no'}</span>
                {hasShares && (
                  <span className="text-[0.9em] text-soft">
                    , {item.calibrated ? '' : 'the model puts it at '}
                    {isPercent ? percentText(item.probability) : `${item.of_100} of 100`} (yes from {from} on)
                  </span>
                )}
              </span>
            </li>
          )
        })}
      </ul>
      {hasShares && <PercentSwitch isPercent={isPercent} onChange={setIsPercent} />}
    </>
  )
}

interface ChooserProps {
  page: Page
  name: string
  label: string
  isChosen: boolean
  onChoose: (name: string) => void
}

/** The answer's name; pressed, curves and contributions are about it. */
function Chooser({ page, name, label, isChosen, onChoose }: ChooserProps) {
  if (!page.parts.curves && !page.parts.contributions) return <span>{label}</span>
  return (
    <button type="button" className="flex flex-wrap items-baseline gap-x-2 text-left" aria-pressed={isChosen} onClick={() => onChoose(name)}>
      <span className={isChosen ? 'font-bold underline decoration-glass decoration-2 underline-offset-4' : 'underline decoration-line underline-offset-4'}>{label}</span>
      {isChosen && <span className="text-[0.84em] text-soft">explained below and at the fields</span>}
    </button>
  )
}
