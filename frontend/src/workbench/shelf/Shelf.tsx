/** The shelf: the author's demos, with state, visits, last answer and health. */
import { useState } from 'react'
import { Link, useLocation } from 'wouter'
import { api, expectData, type DeletedEntry, type ShelfEntry } from '../../api/client'
import { agoText } from '../../domain/format'
import { useShelf, useShelfChange } from '../bench/queries'
import { ShelfRow } from './ShelfRow'

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
        <span className="flex items-baseline gap-6">
          <Link href="/start" className="button-quiet">
            Only a table yet
          </Link>
          <Link href="/new" className="button-primary">
            Bring a model
          </Link>
        </span>
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
            to see how one works. With a table and no model yet,{' '}
            <Link href="/start" className="button-quiet">
              start from that
            </Link>
            .
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
