/** A link to a picture, which the server fetches. */
import { useContext, useState } from 'react'
import { ApiError } from '../../api/client'
import { fetchLink } from '../../api/picture'
import { CaseContext } from '../case/caseContext'

export interface PictureLinkProps {
  onFetched: (file: File) => void
  onLeave: () => void
}

export function PictureLink({ onFetched, onLeave }: PictureLinkProps) {
  const { slug, isDraft } = useContext(CaseContext)
  const [link, setLink] = useState('')
  const [state, setState] = useState<{ status: 'idle' | 'asking' } | { status: 'refused'; message: string }>({ status: 'idle' })
  const canAsk = link.trim() !== '' && state.status !== 'asking'
  const ask = async () => {
    if (!canAsk) return
    setState({ status: 'asking' })
    try {
      onFetched(new File([await fetchLink(slug, link, isDraft)], 'picture'))
    } catch (error) {
      setState({ status: 'refused', message: error instanceof ApiError ? problemText(error) : 'The link cannot be opened from here.' })
    }
  }
  return (
    <div className="absolute inset-0 space-y-3 overflow-y-auto p-6">
      <label className="block">
        Link to a picture
        <input
          type="url"
          className="input-line mt-1 block w-full"
          value={link}
          placeholder="https://"
          autoFocus
          aria-invalid={state.status === 'refused'}
          aria-describedby="link-fault"
          onChange={(event) => setLink(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') onLeave()
            if (event.key !== 'Enter') return
            // Enter asks for the picture, not for the answer.
            event.preventDefault()
            void ask()
          }}
        />
      </label>
      <p id="link-fault" role="status" className="text-[0.88em] text-alert empty:hidden">
        {state.status === 'refused' && `✕ ${state.message}`}
      </p>
      <div className="flex gap-3 text-[0.9em]">
        <button type="button" className="button-primary" aria-disabled={!canAsk} onClick={() => void ask()}>
          {state.status === 'asking' ? 'Fetching…' : 'Fetch it'}
        </button>
        <button type="button" className="button-plain" onClick={onLeave}>
          Cancel
        </button>
      </div>
    </div>
  )
}

function problemText(error: ApiError): string {
  return error.problem.errors?.[0]?.message ?? error.problem.detail
}
