/** Of a page that answers in its visitor's browser: that nothing leaves it, what it could not bring, and its own check. */
import { lazy, Suspense, useState, useSyncExternalStore } from 'react'
import type { Page } from '../../api/client'
import { isSeen } from '../../domain/kinds'
import { onProof, proofAtHand, type Proof } from './proof'

/** Of the largest number: what adding in another order, and other libraries of functions, may come to. */
const SAME_WITHIN = 1e-9
/** The same of what looks at pictures, which counts in single precision. */
const SAME_WITHIN_SINGLE = 1e-4
const MADE = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })

type Checking = { is: 'idle' } | { is: 'under way'; share: number } | { is: 'done'; proof: Proof } | { is: 'failed' }

const KeepHere = lazy(() => import('../browser/KeepHere'))

export function InBrowser({ page, own }: { page: Page; own: NonNullable<Page['in_browser']> }) {
  const [checking, setChecking] = useState<Checking>({ is: 'idle' })
  const proof = useSyncExternalStore(onProof, proofAtHand)
  const check = async () => {
    if (!proof) return
    setChecking({ is: 'under way', share: 0 })
    try {
      setChecking({ is: 'done', proof: await proof.prove((share) => setChecking({ is: 'under way', share })) })
    } catch {
      setChecking({ is: 'failed' })
    }
  }
  return (
    <div className="mt-3 text-soft">
      <p>
        {own.made_at ? `This page is a file, made on ${MADE.format(new Date(own.made_at))}. It answers` : 'This page answers'} here, in your browser: nothing you
        enter leaves this device, and nobody counts it.{own.made_at && ' Whatever its author has changed since is not in it.'}
      </p>
      {own.left_out.length > 0 && (
        <>
          <p className="mt-2">What {own.made_at ? 'its author’s' : 'the'} server can do and this cannot:</p>
          <ul className="list-disc pl-5">
            {own.left_out.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-1 print:hidden">
        <button type="button" className="button-quiet" disabled={!proof || checking.is === 'under way'} onClick={() => void check()}>
          Check this page
        </button>
        <span role="status">{wordsOf(checking, own.made_at !== null, page.fields.some(isSeen), proof?.nReference ?? null)}</span>
      </p>
      {!own.made_at && (
        <Suspense>
          <KeepHere page={page} />
        </Suspense>
      )}
      <p className="mt-2 text-[0.84em] break-words">Its mark: {(own.mark ?? '').slice(0, 16)}</p>
    </div>
  )
}

function wordsOf(checking: Checking, isFile: boolean, isSingle: boolean, nReference: number | null): string {
  switch (checking.is) {
    case 'idle':
      return nReference === null ? 'It can be checked once its model is here.' : `It brings ${nReference} cases with what the server said of them.`
    case 'under way':
      return `${Math.round(100 * checking.share)} of 100 done`
    case 'failed':
      return isFile
        ? 'The check could not be done: this page does not work as it should. Ask its author for another copy.'
        : 'The check could not be done: what this page answers by is not here, or does not work. Load the page again.'
    case 'done':
      return provedWords(checking.proof, isFile, isSingle)
  }
}

function provedWords({ nAnswers, nExplained, outputs, contributions, largest, took }: Proof, isFile: boolean, isSingle: boolean): string {
  const seconds = (took / 1000).toFixed(took < 10_000 ? 1 : 0)
  const counted = `${nAnswers} answers${nExplained ? `, and for ${nExplained} of them what each value adds,` : ''} were asked again in ${seconds} s.`
  const worst = Math.max(outputs, contributions)
  if (worst === 0) return `${counted} All are the very same as the server’s.`
  const apart = `The largest difference to the server’s is ${worst.toExponential(1)}.`
  const isSame = worst <= (isSingle ? SAME_WITHIN_SINGLE : SAME_WITHIN) * Math.max(largest, Number.MIN_VALUE)
  return isSame ? `${counted} ${apart} That is no more than ${isSingle ? 'numbers of single precision, added in another order, come to' : 'adding in another order makes'}.` : `${counted} ${apart} That is too much: do not rely on ${isFile ? 'this copy' : 'this page'}.`
}
