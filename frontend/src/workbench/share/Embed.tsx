/** The page within another: which sites may show it, and what to paste there. */
import { useState } from 'react'
import { faultText } from '../../api/faultText'
import type { DemoState } from '../../api/client'
import { useAccessChange } from '../bench/queries'

export function Embed({ demo }: { demo: DemoState }) {
  const change = useAccessChange(demo.slug)
  const sites = demo.access.sites ?? []
  const [text, setText] = useState(sites.join('\n'))
  const [copied, setCopied] = useState(false)
  const wanted = text.split(/[\s,]+/).filter(Boolean)
  const isSaved = wanted.join() === sites.join()
  const path = demo.access.link ?? `/d/${demo.slug}`
  const snippet = `<iframe src="${location.origin}${path}" title="${escaped(demo.title)}" width="100%" height="900" style="border: 0" loading="lazy"></iframe>`
  const fault = change.error ? faultText(change.error) : null
  return (
    <details className="card-line mt-5 pt-4" data-testid="embed">
      <summary className="font-bold">Within another page</summary>
      <label className="mt-2 block">
        <span className="block text-soft">Sites that may show it in a frame, one a line. Others get an empty frame.</span>
        <textarea className="block w-full border border-edge bg-paper px-2 py-1" rows={2} value={text} placeholder="https://studio.example" aria-describedby="sites-state" onChange={(event) => setText(event.target.value)} />
      </label>
      <p className="mt-1 flex items-baseline gap-5">
        <button type="button" className="button-plain" disabled={isSaved || change.isPending} onClick={() => change.mutate({ new_link: false, sites: wanted }, { onSuccess: ({ sites: now }) => setText((now ?? []).join('\n')) })}>
          Allow these
        </button>
        <span id="sites-state" role="status" className={fault ? 'text-alert' : 'text-soft'}>
          {fault ?? (sites.length === 0 ? 'No other site may, so far.' : isSaved ? `Allowed: ${sites.join(', ')}` : 'Not saved yet.')}
        </span>
      </p>
      <p className="mt-3 text-soft">Paste this where it should stand:</p>
      <pre className="mt-1 overflow-x-auto border border-line p-2 text-[0.86em]" tabIndex={0}>
        <code data-testid="snippet">{snippet}</code>
      </pre>
      <button type="button" className="button-quiet" onClick={() => void navigator.clipboard?.writeText(snippet).then(() => setCopied(true))}>
        {copied ? 'Copied' : 'Copy'}
      </button>
      {demo.access.access !== 'everyone' && (
        <p className="mt-1 max-w-[65ch] text-soft">
          {demo.access.access === 'private' ? 'Only you can open the page now, so the frame shows nothing to others.' : 'A frame within another site keeps who may open it only over https, and where the visitor’s browser lets it.'}
        </p>
      )}
    </details>
  )
}

function escaped(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('"', '&quot;').replaceAll('<', '&lt;')
}
