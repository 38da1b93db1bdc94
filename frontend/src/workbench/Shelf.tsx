/** The shelf: the author's demos, with state, visits, last answer and health. */
import { useState } from 'react'
import { Link, useLocation } from 'wouter'
import { api, expectData, type DeletedEntry, type ShelfEntry } from '../api/client'
import { agoText } from '../parts/format'
import { useShelf, useShelfChange } from './queries'

const SAMPLE = 'will-it-crack' as const

export function Shelf() {
  const shelf = useShelf()
  const [deleted, setDeleted] = useState<ShelfEntry | null>(null)
  const [, navigate] = useLocation()
  const remove = useShelfChange((demo: ShelfEntry) =>
    expectData(api.DELETE('/api/v1/demos/{slug}', { params: { path: { slug: demo.slug } } })).then(() => setDeleted(demo)),
  )
  const restore = useShelfChange((slug: string) =>
    expectData(api.POST('/api/v1/demos/{slug}/restore', { params: { path: { slug } } })).then(() => setDeleted(null)),
  )
  const addSample = useShelfChange((name: typeof SAMPLE) =>
    expectData(api.POST('/api/v1/samples/{name}', { params: { path: { name } } })).then((demo) => navigate(`/demos/${demo.slug}`)),
  )
  const problem = remove.error ?? restore.error ?? addSample.error

  return (
    <main className="mx-auto w-full max-w-5xl px-6 py-8">
      <div className="flex items-baseline justify-between">
        <h1 className="text-[1.6em] font-bold">Your demos</h1>
        <Link href="/new" className="button-primary">
          Bring a model
        </Link>
      </div>
      <div aria-live="polite">
        {deleted && (
          <p className="mt-4">
            “{deleted.title}” is off the shelf, and its page is closed.{' '}
            <button type="button" className="button-quiet" onClick={() => restore.mutate(deleted.slug)}>
              Undo
            </button>
          </p>
        )}
        {problem && <p className="mt-4 text-alert">{problem.message}</p>}
      </div>
      {shelf.isPending && <p className="mt-8 text-soft">Looking…</p>}
      {shelf.isError && <p className="mt-8 text-alert">{shelf.error.message}</p>}
      {shelf.data?.demos.length === 0 && (
        <div className="card-line mt-6 py-8">
          <p>The shelf is empty. Bring a model you have saved, with a table of the rows it learned from.</p>
          <p className="mt-2 text-soft">
            Or{' '}
            <button
              type="button"
              className="button-quiet"
              disabled={addSample.isPending}
              onClick={() => addSample.mutate(SAMPLE)}
            >
              {addSample.isPending ? 'opening the sample…' : 'open a sample'}
            </button>{' '}
            to see how one works.
          </p>
        </div>
      )}
      {shelf.data && shelf.data.demos.length > 0 && (
        <ul className="mt-6">
          {shelf.data.demos.map((demo) => (
            <ShelfRow key={demo.slug} demo={demo} onDelete={() => remove.mutate(demo)} />
          ))}
        </ul>
      )}
      {shelf.data && shelf.data.deleted.length > 0 && <Deleted demos={shelf.data.deleted} onRestore={(slug) => restore.mutate(slug)} />}
    </main>
  )
}

/** Demos off the shelf, which can be brought back. */
function Deleted({ demos, onRestore }: { demos: DeletedEntry[]; onRestore: (slug: string) => void }) {
  return (
    <details className="card-line mt-6 pt-4" data-testid="deleted">
      <summary className="text-soft">{demos.length === 1 ? '1 deleted demo' : `${demos.length} deleted demos`}</summary>
      <ul>
        {demos.map((demo) => (
          <li key={demo.slug} className="flex flex-wrap items-baseline gap-5 py-1.5">
            <span className="font-bold">{demo.title}</span>
            <span className="text-soft">
              /d/{demo.slug}, deleted {agoText(demo.deleted, new Date())}
            </span>
            <button type="button" className="button-quiet" onClick={() => onRestore(demo.slug)}>
              Bring back<span className="sr-only"> {demo.title}</span>
            </button>
          </li>
        ))}
      </ul>
    </details>
  )
}

function ShelfRow({ demo, onDelete }: { demo: ShelfEntry; onDelete: () => void }) {
  const [isAsking, setIsAsking] = useState(false)
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
          {agoText(demo.last_prediction, new Date()) || 'none yet'} · <Health health={demo.health} />
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
