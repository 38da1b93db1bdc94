/** Keeps a page that answers in its visitor's browser on this device, by their word, and forgets it again. */
import { useEffect, useState } from 'react'
import type { Page } from '../../api/client'
import { weightText } from '../../domain/format'
import { forget, keep, keptState } from './keeping'

type Keeping = { is: 'unknown' | 'cannot' | 'not kept' | 'kept' } | { is: 'under way'; share: number } | { is: 'failed'; why: string }

export default function KeepHere({ page }: { page: Page }) {
  const [keeping, setKeeping] = useState<Keeping>({ is: 'unknown' })
  const fetchAll = async () => {
    setKeeping({ is: 'under way', share: 0 })
    try {
      await keep(page, (share) => setKeeping({ is: 'under way', share }))
      setKeeping({ is: 'kept' })
    } catch (error) {
      await forget(page.slug)
      setKeeping({ is: 'failed', why: (error as Error).message })
    }
  }
  const leave = async () => {
    await forget(page.slug)
    setKeeping({ is: 'not kept' })
  }
  // What the browser keeps is outside React.
  useEffect(() => {
    let isHere = true
    void keptState(page.slug).then((is) => isHere && setKeeping({ is }))
    return () => {
      isHere = false
    }
  }, [page.slug])
  if (keeping.is === 'unknown' || keeping.is === 'cannot') return null
  return (
    <p className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-1 print:hidden">
      {keeping.is === 'kept' ? (
        <button type="button" className="button-quiet" onClick={() => void leave()}>
          Forget it here
        </button>
      ) : (
        <button type="button" className="button-quiet" disabled={keeping.is === 'under way'} onClick={() => void fetchAll()}>
          Keep it on this device
        </button>
      )}
      <span role="status">{wordsOf(keeping, page)}</span>
    </p>
  )
}

function wordsOf(keeping: Keeping, page: Page): string {
  switch (keeping.is) {
    case 'under way':
      return `${Math.round(100 * keeping.share)} of 100 done`
    case 'kept':
      return 'It is kept here, and opens without a network. While there is one it looks for what its author has changed.'
    case 'failed':
      return `It could not be kept. ${keeping.why}`
    default:
      return `It then opens without a network too, and a phone can put it on its screen. That takes about ${weightText(page.browser?.bytes ?? 0)}.`
  }
}
