/** A button that saves what was made of a picture, in full size and in the format that the picture came in. */
import { useContext, useState, type ReactNode } from 'react'
import { ApiError, type Inputs } from '../../api/client'
import { saveMade } from '../../api/picture'
import { handOver } from '../../parts/handOver'
import { CaseContext } from '../case/caseContext'

export interface SaveMadeProps {
  inputs: Inputs
  as: 'picture' | 'mask'
  children: ReactNode
}

export function SaveMade({ inputs, as, children }: SaveMadeProps) {
  const { slug, isDraft } = useContext(CaseContext)
  const [said, setSaid] = useState('')
  const save = async () => {
    setSaid('It is being made in full size…')
    try {
      const file = await saveMade(slug, inputs, as, isDraft)
      handOver(file.content, file.name)
      setSaid(`${file.name} is saved.`)
    } catch (error) {
      setSaid(error instanceof ApiError ? error.message : 'It could not be saved. Try again.')
    }
  }
  return (
    <>
      <button type="button" className="button-quiet" onClick={() => void save()}>
        {children}
      </button>
      <p role="status" className="order-last basis-full text-soft empty:hidden">
        {said}
      </p>
    </>
  )
}
