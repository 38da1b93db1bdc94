/** Ways of preparing pictures that were tried, and one picture as the model would see it. */
import { faultText } from '../../api/faultText'
import { useState } from 'react'
import { type DrawingField, type PictureField, type PredictionAnswer } from '../../api/client'
import { predict, WHOLE } from '../../api/picture'
import type { Draft } from '../bench/useDraft'

export type SeenField = PictureField | DrawingField
type Preparation = SeenField['preparation']

/** What was tried on known pictures when the model was brought. */
export function Tries({ draft, field, onUse }: { draft: Draft; field: SeenField; onUse: (preparation: Preparation) => void }) {
  const tries = draft.demo.pictures?.tries ?? []
  if (!tries.length) return null
  const isUsed = (one: Preparation) => (Object.keys(one) as (keyof Preparation)[]).every((key) => JSON.stringify(one[key]) === JSON.stringify(field.preparation[key]))
  return (
    <details className="mt-2">
      <summary className="text-soft">{tries.length} ways tried on known pictures</summary>
      <table className="mt-1 text-left">
        <thead>
          <tr className="text-soft">
            <th className="pr-6 font-normal">Prepared</th>
            <th className="pr-6 text-right font-normal">Right</th>
            <th className="sr-only">Use</th>
          </tr>
        </thead>
        <tbody>
          {tries.map((one) => (
            <tr key={one.words} className="border-t border-line">
              <td className="py-0.5 pr-6">
                {one.words}
                {one.is_as_likely && <span className="text-soft"> · as likely as the first</span>}
              </td>
              <td className="pr-6 text-right">
                {one.n_right} of {one.n_tried}
              </td>
              <td>
                {isUsed(one.preparation) ? (
                  <span className="text-soft">in use</span>
                ) : (
                  <button type="button" className="button-quiet" onClick={() => onUse(one.preparation)}>
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

/** A picture of the author's, as the draft's model sees it and what it says of it. */
export function TryPicture({ field, draft }: { field: SeenField; draft: Draft }) {
  const [said, setSaid] = useState<{ answer: PredictionAnswer | null; fault: string }>({ answer: null, fault: '' })
  const isAlone = draft.demo.fields.length === 1
  const ask = async (file: File) => {
    try {
      const answer = await predict(draft.demo.slug, { [field.name]: { file, cut: WHOLE, turn: 0 } }, { draft: '1', with: 'seen' })
      setSaid({ answer, fault: '' })
    } catch (error) {
      setSaid({ answer: null, fault: faultText(error, 'No answer. Try again.') })
    }
  }
  if (!isAlone) return null
  const seen = said.answer?.seen?.[field.name]
  return (
    <div className="mt-3 flex flex-wrap items-center gap-4">
      <label>
        <span className="block text-soft">Try a picture: what the model then sees</span>
        <input
          type="file"
          accept="image/*"
          className="mt-1 text-soft file:mr-4 file:rounded-full file:border file:border-glass file:bg-transparent file:px-4 file:py-1 file:font-bold file:text-glass"
          onChange={(event) => event.target.files?.[0] && void ask(event.target.files[0])}
        />
      </label>
      <p role="status" className="text-alert empty:hidden">
        {said.fault}
      </p>
      {seen && <img src={seen} alt="The picture as the model sees it" width={128} className="border border-line [image-rendering:pixelated]" />}
      {said.answer?.answer.kind === 'class' && <p className="font-bold">{said.answer.answer.headline}</p>}
      {said.answer?.answer.kind === 'number' && (
        <p className="font-bold">
          {said.answer.answer.text} {said.answer.answer.unit}
        </p>
      )}
    </div>
  )
}
