/** One demo on the shelf: its state, its visits, its health. */
import { useState } from 'react'
import { Link } from 'wouter'
import { type ShelfEntry } from '../../api/client'
import { agoText } from '../../domain/format'
import { useNow } from '../../parts/useNow'

export function ShelfRow({ demo, onDelete }: { demo: ShelfEntry; onDelete: () => void }) {
  const [isAsking, setIsAsking] = useState(false)
  const now = useNow()
  return (
    <li className="card-line grid grid-cols-[minmax(0,3fr)_minmax(0,2fr)_minmax(0,2fr)_auto] items-baseline gap-5 py-4">
      <div>
        <Link href={`/demos/${demo.slug}`} className="text-[1.15em] font-bold underline decoration-line underline-offset-4 hover:decoration-glass">
          {demo.title}
        </Link>
        <p className="text-soft">{demo.purpose || `/d/${demo.slug}`}</p>
      </div>
      <div>
        <p>{releaseWords(demo)}</p>
        <p className="text-soft">{demo.draft_differs && demo.release ? 'the draft has changes' : accessWords(demo)}</p>
      </div>
      <div>
        <p>
          {demo.predictions} answer{demo.predictions === 1 ? '' : 's'} to visitors
          {demo.own_tries > 0 && <span className="text-soft">, {demo.own_tries} to you</span>}
        </p>
        <p className="text-soft">
          {agoText(demo.last_prediction, now) || 'none yet'} · <Health health={demo.health} />
        </p>
        {demo.failures > 0 && (
          <p className="text-caution">
            <span aria-hidden="true">! </span>
            {demo.failures} of visitors’ calls failed this week.
          </p>
        )}
        {demo.trouble && (
          <p className="text-caution">
            <span aria-hidden="true">! </span>Its process was stopped and started again. {demo.trouble}
          </p>
        )}
      </div>
      <div className="flex gap-4 text-[0.95em]">
        <a className="button-quiet" href={demo.release ? `/d/${demo.slug}` : `/d/${demo.slug}?draft=1`}>
          Visitor’s page
        </a>
        {isAsking ? (
          <button type="button" className="text-alert underline underline-offset-3" onClick={onDelete} onBlur={() => setIsAsking(false)}>
            Close the page and delete?
          </button>
        ) : (
          <button type="button" className="button-quiet" aria-label={`Delete ${demo.title}`} onClick={() => setIsAsking(true)}>
            Delete
          </button>
        )}
      </div>
    </li>
  )
}

function Health({ health }: { health: ShelfEntry['health'] }) {
  switch (health) {
    case 'ready':
      return <span className="text-calm">✓ ready</span>
    case 'starting':
      return <span className="text-soft">starting</span>
    case 'failing':
      return <span className="text-alert">✕ fails every call</span>
    case 'failed':
      return <span className="text-alert">✕ cannot be opened</span>
    case 'asleep':
    case 'finished':
      return <span className="text-soft">asleep</span>
  }
}

function releaseWords(demo: ShelfEntry): string {
  return demo.release ? `Version ${demo.release}` : 'Draft, not published'
}

export function accessWords(demo: Pick<ShelfEntry, 'access'>): string {
  return {
    private: 'only you can open it',
    link: 'people with the secret link',
    passcode: 'people with the passcode',
    everyone: 'open to everyone',
  }[demo.access]
}
