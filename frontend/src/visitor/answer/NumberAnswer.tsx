/** One number: large, with its unit, how far off it usually is, and where it stands among the outcomes known. */
import type { ReactNode } from 'react'
import type { Answer, NumberSetting } from '../../api/client'
import { loadedFirst } from '../../parts/loadedFirst'
import { ToneSign } from '../../parts/ToneSign'

/** There before the page is drawn, if it is needed: `drawing.tsx` fetches it with the page. */
export const [NumberScale, loadNumberScale] = loadedFirst(() => import('../../parts/NumberScale'))

export interface NumberAnswerProps {
  answer: Extract<Answer, { kind: 'number' }>
  setting: NumberSetting
  /** What must be read before any number is. */
  caution: ReactNode
}

export function NumberAnswer({ answer, setting, caution }: NumberAnswerProps) {
  const hasScale = typeof setting.low === 'number' && typeof setting.high === 'number'
  return (
    <>
      <p className="text-soft">{setting.name}</p>
      <h2 id="answer-heading" className="text-[2.6em] leading-tight font-bold">
        {answer.text} <span className="text-[0.5em] font-normal">{answer.unit}</span>
      </h2>
      {answer.band && (
        <p className="text-[1.06em] font-bold">
          <ToneSign tone={answer.band.tone ?? ''} /> {answer.band.label}
        </p>
      )}
      {/* One stands where the other would: what is unlike anything seen has no word on how far off it may be. */}
      <div className="min-h-[2.8em]">
        {caution ||
          (answer.interval && (
            <p>
              usually within ±{answer.interval.text} {answer.unit}{' '}
              <span className="text-soft">({Math.round(answer.interval.coverage * 100)} of 100 times, for cases like those it was tried on)</span>
            </p>
          ))}
      </div>
      {hasScale && <NumberScale answer={answer} setting={setting} />}
    </>
  )
}
