/** A class for each pixel: each kind with its colour and how much of the picture it has; how strong they are over it. */
import { useContext, type ReactNode } from 'react'
import type { Inputs, MaskedKind } from '../../api/client'
import { MadeContext, type MadeView } from '../pictures/madeView'
import { KindSwatch } from './KindSwatch'
import { SaveMade } from './SaveMade'

export interface MaskAnswerProps {
  inputs: Inputs
  /** What must be read before any number is. */
  caution: ReactNode
}

export function MaskAnswer({ inputs, caution }: MaskAnswerProps) {
  const view = useContext(MadeContext)
  if (!view || view.made.answer.kind !== 'mask' || view.made.setting.kind !== 'mask') return null
  const { kinds } = view.made.answer
  const { nothing } = view.made.setting
  const largest = kinds.find((kind) => kind.name !== nothing && kind.share > 0)
  return (
    <>
      <h2 id="answer-heading" className="mt-1 text-[1.7em] leading-tight font-bold first-letter:uppercase">
        {largest ? `${largest.of_100} of 100 ${largest.label}` : 'Nothing found'}
      </h2>
      {caution}
      <p className="mt-1 text-soft">How much of the picture the model gives to each. No known pictures bear that out.</p>
      <Strength view={view} />
      <ul className="mt-2" aria-label="What each pixel is taken for, the largest first">
        {kinds.map((kind) => (
          <Kind key={kind.place} kind={kind} isNothing={kind.name === nothing} view={view} />
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap gap-x-5 gap-y-1 text-[0.92em] print:hidden">
        <SaveMade inputs={inputs} as="picture">
          Save the picture with its mask
        </SaveMade>
        <SaveMade inputs={inputs} as="mask">
          Save the mask alone
        </SaveMade>
      </div>
    </>
  )
}

function Strength({ view: { share, onShare } }: { view: MadeView }) {
  return (
    <label className="mt-3 flex max-w-80 items-center gap-3 text-[0.92em] print:hidden">
      <span>clear</span>
      <input type="range" className="slider" min={0} max={50} value={Math.round(Math.min(0.5, share) * 100)} aria-label="Mask over the picture" onChange={(event) => onShare(Number(event.target.value) / 100)} />
      <span>strong</span>
    </label>
  )
}

function Kind({ kind, isNothing, view: { off, onSwitch } }: { kind: MaskedKind; isNothing: boolean; view: MadeView }) {
  const words = (
    <>
      <span className="min-w-0 flex-1 break-words">{kind.label}</span>
      <span className="tabular-nums">{kind.share > 0 && kind.of_100 === 0 ? 'less than 1' : kind.of_100} of 100</span>
    </>
  )
  return (
    <li className="card-line">
      {isNothing ? (
        <span className="flex min-h-9 items-center gap-2 py-1 text-soft">
          <span className="w-5" aria-hidden="true" />
          <span className="w-6" aria-hidden="true" />
          {words}
        </span>
      ) : (
        <label className="flex min-h-9 items-center gap-2 py-1">
          <input type="checkbox" className="size-5 accent-(--glass) print:hidden" checked={!off.has(kind.place)} onChange={(event) => onSwitch(kind.place, event.target.checked)} />
          <KindSwatch place={kind.place} />
          {words}
        </label>
      )}
    </li>
  )
}
