/** One demo: a rail with its places, what the place sets on the left, the visitor's page of the draft on the right. */
import { useCallback, useRef, type ReactNode } from 'react'
import { Link } from 'wouter'
import type { DemoState } from '../api/client'
import { DRAFT_CHANGED } from '../parts/draftChanged'
import { AnswerPlace } from './AnswerPlace'
import { InputsPlace } from './InputsPlace'
import { ModelPlace } from './ModelPlace'
import { useDemo } from './queries'
import { SharePlace } from './SharePlace'
import { accessWords } from './Shelf'
import { useDraft, type Draft } from './useDraft'

const PLACES = [
  { name: 'model', label: 'Model' },
  { name: 'inputs', label: 'Inputs' },
  { name: 'answer', label: 'Answer' },
  { name: 'share', label: 'Share' },
] as const
type Place = (typeof PLACES)[number]['name']

export interface DemoBenchProps {
  slug: string
  place: string
}

export function DemoBench({ slug, place }: DemoBenchProps) {
  const demo = useDemo(slug)
  if (demo.isPending) return <p className="px-6 py-16 text-soft">Opening…</p>
  if (demo.isError) {
    return (
      <main className="px-6 py-16">
        <p>{demo.error.message}</p>
        <Link href="/" className="button-quiet">
          Back to the shelf
        </Link>
      </main>
    )
  }
  const shown = PLACES.find(({ name }) => name === place)?.name ?? 'inputs'
  return <OpenDemo demo={demo.data} place={shown} />
}

function OpenDemo({ demo, place }: { demo: DemoState; place: Place }) {
  const frame = useRef<HTMLIFrameElement>(null)
  const showChange = useCallback(() => frame.current?.contentWindow?.postMessage(DRAFT_CHANGED, location.origin), [])
  const draft = useDraft(demo, showChange)
  return (
    <>
      <nav aria-label="Places of this demo" className="flex items-baseline gap-7 border-b border-line px-6">
        <h1 className="mr-3 max-w-[24ch] truncate py-2.5 font-bold">{demo.title}</h1>
        {PLACES.map(({ name, label }) => (
          <Link
            key={name}
            href={`/demos/${demo.slug}/${name}`}
            aria-current={name === place ? 'page' : undefined}
            className="border-b-3 border-transparent py-2.5 aria-[current=page]:border-glass aria-[current=page]:font-bold"
          >
            {label}
            {openWords(name, demo) && <span className="ml-1.5 text-[0.88em] font-normal text-caution">{openWords(name, demo)}</span>}
          </Link>
        ))}
        <span className="ml-auto flex items-baseline gap-4 text-soft">
          <span role="status">{draft.isSaving ? 'Saving…' : 'Saved'}</span>
          <button type="button" className="button-quiet disabled:no-underline disabled:opacity-50" disabled={!draft.canUndo} onClick={draft.undo}>
            Undo
          </button>
        </span>
      </nav>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,11fr)_minmax(0,10fr)]">
        <main className="overflow-y-auto px-6 py-5 h-[calc(100vh-8.2rem)]">{renderPlace(place, draft)}</main>
        <iframe
          ref={frame}
          title="The visitor’s page of this draft"
          src={`/d/${demo.slug}?draft=1`}
          className="h-full min-h-[30rem] w-full border-l border-line"
        />
      </div>
      <footer className="flex gap-8 border-t border-line px-6 py-1.5 text-[0.92em] text-soft">
        <span>{demo.release ? `Version ${demo.release.number} is live` : 'Not published'}</span>
        <span>{accessWords({ access: demo.access.access })}</span>
        <span>{demo.release && demo.draft_differs ? 'The draft has changes visitors do not see' : ''}</span>
        <a className="button-quiet ml-auto" href={`/d/${demo.slug}?draft=1`}>
          Open the draft by itself
        </a>
      </footer>
    </>
  )
}

/** What is still open in a place. */
function openWords(place: Place, demo: DemoState): string {
  if (place === 'model' && demo.found.warnings.length > 0) return '! read'
  if (place === 'share' && !demo.release) return 'not published'
  if (place === 'share' && demo.draft_differs) return 'changes'
  return ''
}

function renderPlace(place: Place, draft: Draft): ReactNode {
  switch (place) {
    case 'model':
      return <ModelPlace demo={draft.demo} />
    case 'inputs':
      return <InputsPlace draft={draft} />
    case 'answer':
      return <AnswerPlace draft={draft} />
    case 'share':
      return <SharePlace draft={draft} />
  }
}
