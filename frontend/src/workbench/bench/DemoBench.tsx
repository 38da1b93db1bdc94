/** One demo: a rail with its places, what the place sets on the left, the visitor's page of the draft on the right. */
import { useCallback, useEffect, useRef, useState, type ReactNode, type RefObject } from 'react'
import { Link, useLocation } from 'wouter'
import type { DemoState, Inputs } from '../../api/client'
import { caseFragment } from '../../domain/caseLink'
import { formOf } from '../../domain/formState'
import { isPicture } from '../../api/picture'
import { CASE_SHOWN, SHOW_CASE } from '../../parts/caseShown'
import { DRAFT_CHANGED } from '../../parts/draftChanged'
import { AnswerPlace } from '../answer/AnswerPlace'
import { InputsPlace } from '../inputs/InputsPlace'
import { ChecksPlace } from '../checks/ChecksPlace'
import { ModelPlace } from '../model/ModelPlace'
import { KeyMap } from './KeyMap'
import { Opened, useOpenedPart, type OpenedPart } from './openedPart'
import { useBenchKeys } from './useBenchKeys'
import { Elsewhere } from './Elsewhere'
import { useDemo } from './queries'
import { SharePlace } from '../share/SharePlace'
import { ShowCase, ShownCase } from '../inputs/shownCase'
import { accessWords } from '../shelf/ShelfRow'
import { useDraft, type Draft } from './useDraft'

const PLACES = [
  { name: 'model', label: 'Model' },
  { name: 'inputs', label: 'Inputs' },
  { name: 'answer', label: 'Answer' },
  { name: 'checks', label: 'Checks' },
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
  return <OpenDemo demo={demo.data} slug={slug} place={shown} />
}

function OpenDemo({ demo, slug, place }: { demo: DemoState; slug: string; place: Place }) {
  const frame = useRef<HTMLIFrameElement>(null)
  const showChange = useCallback(() => frame.current?.contentWindow?.postMessage(DRAFT_CHANGED, location.origin), [])
  const draft = useDraft(demo, showChange)
  const shown = useShownCase(frame)
  const { fields } = demo
  // As somebody does who pastes the case's link into the open page.
  const show = useCallback(
    (inputs: Inputs) => {
      const page = frame.current?.contentWindow?.location
      // No address has room for a picture.
      if (Object.values(inputs).some((value) => isPicture(value) && value.file)) {
        frame.current?.contentWindow?.postMessage({ type: SHOW_CASE, inputs }, location.origin)
        return
      }
      page?.replace(page.pathname + page.search + caseFragment(formOf(fields, inputs)))
    },
    [fields],
  )
  const [, navigate] = useLocation()
  const [isMapOpen, setIsMapOpen] = useState(false)
  useBenchKeys(frame, {
    onPlace: (number) => navigate(`/demos/${demo.slug}/${PLACES[number - 1]?.name ?? place}`),
    onMap: () => setIsMapOpen(true),
  })
  const opened = useOpenedPart(frame, place, (wanted) => navigate(`/demos/${demo.slug}/${wanted}`))
  const main = useRef<HTMLElement>(null)
  // Scrolling is the browser's; the place that was gone to has been drawn by then.
  useEffect(() => {
    if (opened) main.current?.querySelector(settingsOf(opened))?.scrollIntoView({ block: 'nearest' })
  }, [opened, place])
  // The address may just have been changed; what stands in the bar follows.
  useEffect(() => {
    if (demo.slug !== slug) navigate(`/demos/${demo.slug}/${place}`, { replace: true })
  }, [demo.slug, slug, place, navigate])
  return (
    <>
      <Elsewhere draft={draft} />
      <KeyMap isOpen={isMapOpen} onClose={() => setIsMapOpen(false)} />
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
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,11fr)_minmax(0,10fr)] grid-rows-[minmax(0,1fr)]">
        {/* Positioned: words for screen readers only would otherwise make the whole window scroll. */}
        <main ref={main} className="relative overflow-y-auto px-6 py-5">
          <ShowCase value={show}>
            <ShownCase value={shown}>
              <Opened value={opened}>{renderPlace(place, draft)}</Opened>
            </ShownCase>
          </ShowCase>
        </main>
        <iframe
          ref={frame}
          title="The visitor’s page of this draft"
          src={`/d/${demo.slug}?draft=1`}
          className="size-full border-l border-line"
        />
      </div>
      <footer className="flex gap-8 border-t border-line px-6 py-1.5 text-[0.92em] text-soft">
        <span>{demo.release ? `Version ${demo.release.number} is live` : 'Not published'}</span>
        <span>{accessWords({ access: demo.access.access })}</span>
        <span>{demo.release && demo.draft_differs ? 'The draft has changes visitors do not see' : ''}</span>
        <button type="button" className="button-quiet ml-auto" aria-keyshortcuts="?" onClick={() => setIsMapOpen(true)}>
          Keys
        </button>
        <a className="button-quiet" href={`/d/${demo.slug}?draft=1`}>
          Open the draft by itself
        </a>
      </footer>
    </>
  )
}

/** Where a place has the settings of a part. */
function settingsOf({ kind, name }: OpenedPart): string {
  return kind === 'field' ? `[data-field="${CSS.escape(name)}"]` : `[data-settings="${kind}"]`
}

/** What the page in the frame says of its case. Frames are outside React's reach. */
function useShownCase(frame: RefObject<HTMLIFrameElement | null>): Inputs | null {
  const [shown, setShown] = useState<Inputs | null>(null)
  useEffect(() => {
    const listen = (event: MessageEvent<{ type?: string; inputs?: Inputs }>) => {
      if (event.origin !== location.origin || event.source !== frame.current?.contentWindow) return
      if (event.data?.type === CASE_SHOWN && event.data.inputs) setShown(event.data.inputs)
    }
    window.addEventListener('message', listen)
    return () => window.removeEventListener('message', listen)
  }, [frame])
  return shown
}

/** What is still open in a place. */
function openWords(place: Place, demo: DemoState): string {
  if (place === 'model' && demo.questions.length > 0) return '! confirm'
  if (place === 'model' && (demo.evidence_is_stale || (!demo.target && demo.candidates.length > 1))) return '! open'
  if (place === 'model' && demo.found.warnings.length > 0) return '! read'
  if (place === 'share' && !demo.release) return 'not published'
  if (place === 'share' && demo.draft_differs) return 'changes'
  return ''
}

function renderPlace(place: Place, draft: Draft): ReactNode {
  switch (place) {
    case 'model':
      return <ModelPlace draft={draft} />
    case 'inputs':
      return <InputsPlace draft={draft} />
    case 'answer':
      return <AnswerPlace draft={draft} />
    case 'checks':
      return <ChecksPlace draft={draft} />
    case 'share':
      return <SharePlace draft={draft} />
  }
}
