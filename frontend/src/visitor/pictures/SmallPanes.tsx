/** The demo's ready pictures, as small panes to press. */
import { useContext } from 'react'
import type { InputValue } from '../../api/client'
import { CaseContext } from '../case/caseContext'
import { sampleAddress } from './pictureSource'

/** @param name the field that a picture is for */
export function SmallPanes({ name }: { name: string }) {
  const { slug, isDraft, samples, onTry } = useContext(CaseContext)
  const shown = samples.flatMap(({ title, inputs }) => {
    const value = inputs[name]
    return typeof value === 'object' && value !== null && 'sample' in value ? [{ title, inputs, sample: String(value.sample) }] : []
  })
  if (!shown.length) return null
  return (
    <ul aria-label="Or try one of these" className="small-panes flex gap-3 print:hidden">
      {shown.map(({ title, inputs, sample }) => (
        <li key={title} className="w-21 shrink-0">
          <button type="button" className="block w-full text-left text-[0.78em] leading-tight text-soft" onClick={() => onTry(inputs as Record<string, InputValue>)}>
            <img src={sampleAddress(slug, sample, isDraft)} alt="" width={84} height={84} className="aspect-square w-full border border-line bg-paper object-cover p-[3px]" />
            <span className="mt-1 block break-words">{title}</span>
          </button>
        </li>
      ))}
    </ul>
  )
}
