/** A small picture beside the title, with its words. */
import { faultText } from '../../api/faultText'
import { useState } from 'react'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { FilesInput } from '../shelf/FilesInput'

const MOST_BYTES = 300_000

export function LogoInput({ draft }: { draft: Draft }) {
  const { logo } = draft.demo
  const [fault, setFault] = useState('')
  const take = async (file: File | undefined) => {
    if (!file) return
    if (file.size > MOST_BYTES) return setFault(`This picture is ${Math.round(file.size / 1000)} KB; the limit is ${MOST_BYTES / 1000} KB. Try a smaller one.`)
    try {
      await draft.save({ logo: { data: await base64Of(file), alt: logo?.alt ?? '' } })
      setFault('')
    } catch (error) {
      setFault(faultText(error, 'The picture could not be read. Try another one.'))
    }
  }
  return (
    <div data-testid="logo">
      {logo?.data ? (
        <div className="flex flex-wrap items-end gap-x-5">
          <SavedInput className="min-w-60 flex-1" label="What the picture shows, for who does not see it" value={logo.alt ?? ''} onSave={(alt) => draft.save((now) => ({ logo: { data: now.logo?.data ?? '', alt } }))} />
          <button type="button" className="button-quiet" onClick={() => void draft.save({ logo: { data: '', alt: '' } })}>
            Take the picture away
          </button>
        </div>
      ) : (
        <FilesInput label="A picture or logo for the page’s head" accept="image/png,image/jpeg,image/webp" onFiles={([file]) => void take(file)} />
      )}
      {fault && (
        <p role="alert" className="mt-0.5 text-[0.88em] text-alert">
          {fault}
        </p>
      )}
    </div>
  )
}

function base64Of(file: File): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => resolve(String(reader.result).split(',')[1] ?? '')
    reader.onerror = () => reject(new Error('not read'))
    reader.readAsDataURL(file)
  })
}
