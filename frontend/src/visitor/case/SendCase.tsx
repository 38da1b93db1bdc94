/** Copies a link that carries exactly this case; of a page that is a file, what to put behind its address. */
import { useState } from 'react'
import { isPicture } from '../../api/picture'
import { caseFragment } from '../../domain/caseLink'
import type { FormValues } from '../../domain/formState'

type Sent = { status: 'no' } | { status: 'copied'; link: string } | { status: 'by hand'; link: string }

export interface SendCaseProps {
  values: FormValues
  /** Whether the page is a file: where it lies here leads nobody to it, and is nobody else's business. */
  isFile: boolean
}

export function SendCase({ values, isFile }: SendCaseProps) {
  const [sent, setSent] = useState<Sent>({ status: 'no' })
  const hasFile = Object.values(values).some((value) => isPicture(value) && value.file)
  const copy = async () => {
    const link = `${isFile ? '' : `${location.origin}${location.pathname}`}${caseFragment(values)}`
    try {
      await navigator.clipboard.writeText(link)
      setSent({ status: 'copied', link })
    } catch {
      // A page without a secure address may not copy; the link can still be copied by hand.
      setSent({ status: 'by hand', link })
    }
  }
  return (
    <>
      <button type="button" className="button-plain" aria-label="Send this case" onClick={() => void copy()}>
        Send
      </button>
      <p role="status" className="order-last basis-full text-[0.92em] text-soft empty:hidden">
        {sent.status === 'copied' && (isFile ? 'This case is copied as the end of an address. Whoever has this file too puts it behind the file’s address.' : 'A link to this case is copied. Whoever opens it sees these values and their answer.')}
        {sent.status !== 'no' && hasFile && ' Your picture does not go along: it stays here with you.'}
        {sent.status === 'by hand' && (
          <>
            {isFile ? 'Copy this; whoever has this file too puts it behind the file’s address:' : 'Copy this link:'} <span className="break-all select-all">{sent.link}</span>
          </>
        )}
      </p>
    </>
  )
}
