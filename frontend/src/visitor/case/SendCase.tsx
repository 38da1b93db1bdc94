/** Copies a link that carries exactly this case; of a page that is a file on a disk, what to put behind its address. */
import { useState } from 'react'
import { isPicture } from '../../api/picture'
import { caseFragment } from '../../domain/caseLink'
import type { FormValues } from '../../domain/formState'

type Sent = { status: 'no' } | { status: 'copied'; link: string } | { status: 'by hand'; link: string }

const IS_ON_DISK = location.protocol === 'file:'

export function SendCase({ values }: { values: FormValues }) {
  const [sent, setSent] = useState<Sent>({ status: 'no' })
  const hasFile = Object.values(values).some((value) => isPicture(value) && value.file)
  const copy = async () => {
    // Where the file lies here is nobody else's business, and leads nobody to it.
    const link = `${IS_ON_DISK ? '' : `${location.origin}${location.pathname}`}${caseFragment(values)}`
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
        {sent.status === 'copied' && (IS_ON_DISK ? 'This case is copied as the end of an address. Whoever has this file too puts it behind the file’s address.' : 'A link to this case is copied. Whoever opens it sees these values and their answer.')}
        {sent.status !== 'no' && hasFile && ' Your picture does not go along: it stays here with you.'}
        {sent.status === 'by hand' && (
          <>
            {IS_ON_DISK ? 'Copy this; whoever has this file too puts it behind the file’s address:' : 'Copy this link:'} <span className="break-all select-all">{sent.link}</span>
          </>
        )}
      </p>
    </>
  )
}
