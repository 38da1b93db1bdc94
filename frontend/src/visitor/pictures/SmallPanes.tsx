/** The demo's ready pictures, as small panes to press. */
import { useContext, useEffect, useState } from 'react'
import type { InputValue } from '../../api/client'
import { CaseContext } from '../case/caseContext'
import { sampleContent } from './pictureSource'

/** @param name the field that a picture is for */
export function SmallPanes({ name }: { name: string }) {
  const { samples, onTry } = useContext(CaseContext)
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
            <SampleImage sample={sample} />
            <span className="mt-1 block break-words">{title}</span>
          </button>
        </li>
      ))}
    </ul>
  )
}

function SampleImage({ sample }: { sample: string }) {
  const { slug, isDraft } = useContext(CaseContext)
  const [address, setAddress] = useState<string>()
  // Whoever answers has it: the server, or the file that the page is.
  useEffect(() => {
    let own: string | null = null
    let isWanted = true
    sampleContent(slug, sample, isDraft).then(
      (content) => {
        if (!isWanted) return
        own = URL.createObjectURL(content)
        setAddress(own)
      },
      () => undefined,
    )
    return () => {
      isWanted = false
      if (own) URL.revokeObjectURL(own)
    }
  }, [slug, sample, isDraft])
  return <img src={address} alt="" width={84} height={84} className="aspect-square w-full border border-line bg-paper object-cover p-[3px]" />
}
