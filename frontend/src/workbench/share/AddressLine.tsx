/** An address, to copy or to show a phone. */
import { useState } from 'react'
import { QrCode } from './QrCode'

export function AddressLine({ path, of = '', testId }: { path: string; of?: string; testId?: string }) {
  const address = `${location.origin}${path}`
  const [copied, setCopied] = useState('')
  const [isShown, setIsShown] = useState(false)
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <a href={path} className="min-h-6 min-w-0 break-all underline underline-offset-3" data-testid={testId}>
          {address}
        </a>
        <button type="button" className="button-quiet min-h-6" onClick={() => void navigator.clipboard?.writeText(address).then(() => setCopied(address))}>
          {copied === address ? 'Copied' : 'Copy'}
          {of && <span className="sr-only"> {of}</span>}
        </button>
        <button type="button" className="button-quiet min-h-6" aria-expanded={isShown} onClick={() => setIsShown(!isShown)}>
          Code for phones{of && <span className="sr-only"> of {of}</span>}
        </button>
      </p>
      {isShown && <QrCode address={address} />}
    </>
  )
}
