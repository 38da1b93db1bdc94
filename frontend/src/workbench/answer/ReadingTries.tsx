/** Readings of boxes that were tried when the model was brought, with what speaks for each. */
import type { BoxReading } from '../../api/client'
import { ofHundred } from '../../domain/ofHundred'
import type { Draft } from '../bench/useDraft'

export interface ReadingTriesProps {
  draft: Draft
  reading: BoxReading
  onUse: (reading: BoxReading) => void
}

export function ReadingTries({ draft, reading, onUse }: ReadingTriesProps) {
  const found = draft.demo.boxes
  const tries = found?.tries ?? []
  if (!found || !tries.length) return null
  const isUsed = (one: BoxReading) => (Object.keys(one) as (keyof BoxReading)[]).every((key) => key === 'overlap' || one[key] === reading[key])
  return (
    <details className="mt-2" open={!tries.some((one) => isUsed(one.reading))}>
      <summary className="text-soft">
        {tries.length} {tries.length === 1 ? 'way' : 'ways'} tried on {found.are_authors ? `${found.n_pictures} of your pictures` : `${found.n_pictures} made-up pictures`}
      </summary>
      <p className="mt-1 max-w-[70ch] text-[0.93em] text-soft">
        What is found in a picture is found at the mirrored place in the mirrored picture. Read rightly, the boxes say so: “agrees” is how much of their area they share.
      </p>
      <table className="mt-1 text-left">
        <thead>
          <tr className="text-soft">
            <th className="pr-6 font-normal">Read as</th>
            <th className="pr-6 text-right font-normal">Agrees</th>
            <th className="pr-6 text-right font-normal">In the picture</th>
            <th className="sr-only">Use</th>
          </tr>
        </thead>
        <tbody>
          {tries.map((one) => (
            <tr key={one.words} className="border-t border-line align-top">
              <td className="py-0.5 pr-6">{one.words}</td>
              <td className="pr-6 text-right whitespace-nowrap">{typeof one.agreement === 'number' ? `${ofHundred(one.agreement)} of 100` : 'not known'}</td>
              <td className="pr-6 text-right whitespace-nowrap">{one.n_boxes ? `${ofHundred(one.inside)} of 100` : 'no boxes'}</td>
              <td>
                {isUsed(one.reading) ? (
                  <span className="text-soft">in use</span>
                ) : (
                  <button type="button" className="button-quiet" onClick={() => onUse(one.reading)}>
                    Use this
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  )
}
