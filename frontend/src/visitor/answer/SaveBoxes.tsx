/** The picture with its boxes, in the format it came in, and the boxes as a table: as they are shown now. */
import { useContext, useState } from 'react'
import type { Inputs } from '../../api/client'
import { ApiError } from '../../api/client'
import { saveBoxes } from '../../api/picture'
import { handOver } from '../../parts/handOver'
import { CaseContext } from '../case/caseContext'
import type { BoxesView } from '../pictures/boxesView'

export interface SaveBoxesProps {
  inputs: Inputs
  view: BoxesView
}

export function SaveBoxes({ inputs, view: { setting, leastScore, off } }: SaveBoxesProps) {
  const { slug, isDraft } = useContext(CaseContext)
  const [said, setSaid] = useState('')
  const save = async (as: 'picture' | 'csv') => {
    setSaid(as === 'picture' ? 'The picture is being made…' : 'The table is being made…')
    try {
      const only = off.size ? setting.labels.map((one) => one.name).filter((name) => !off.has(name)) : []
      const file = await saveBoxes(slug, inputs, { as, leastScore, only, isDraft })
      handOver(file.content, file.name)
      setSaid(`${file.name} is saved.`)
    } catch (error) {
      setSaid(error instanceof ApiError ? error.message : 'It could not be saved. Try again.')
    }
  }
  const isNothing = off.size > 0 && off.size === setting.labels.length
  return (
    <div className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-[0.92em] print:hidden">
      <button type="button" className="button-quiet" aria-disabled={isNothing} onClick={() => !isNothing && void save('picture')}>
        Save the picture with its boxes
      </button>
      <button type="button" className="button-quiet" aria-disabled={isNothing} onClick={() => !isNothing && void save('csv')}>
        Save them as a table
      </button>
      <p role="status" className="basis-full text-soft empty:hidden">
        {said}
      </p>
    </div>
  )
}
