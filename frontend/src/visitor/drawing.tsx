/** The visitor's page from nothing to drawn: its letters, what it is made of, and what is said while that is on its way. */
import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from '@tanstack/react-query'
import { StrictMode, useEffect, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { api, ApiError, expectData, retryDelayMs, type Page } from '../api/client'
import { isSeen } from '../domain/kinds'
import { DRAFT_CHANGED } from '../parts/draftChanged'
import '../parts/styles.css'
import { loadNumberScale } from './answer/NumberAnswer'
import { loadSeenControl } from './fields/FieldRow'
import { PasscodeForm } from './page/PasscodeForm'
import { VisitorPage } from './page/VisitorPage'

const RETRIES = 20
const FONT_WAIT_MS = 2500
const AWAY_LOOK_MS = 5000
/** A page that is nearly there is drawn once, as a whole; one that takes longer says that it is opening. */
const OPENING_AFTER_MS = 250

/** On their way before anything is drawn with them; settled too when they are not worth waiting for any longer. */
const fonts = Promise.race([
  Promise.allSettled(['400', '700'].map((weight) => document.fonts.load(`${weight} 1em 'Atkinson Hyperlegible'`, 'a'))),
  new Promise<'late'>((go) => setTimeout(() => go('late'), FONT_WAIT_MS)),
]).then((came) => {
  // Letters that come later would move everything under a hand: this page then stays with those at hand.
  if (came === 'late') document.documentElement.classList.add('letters-at-hand')
  hasFonts = true
})
let hasFonts = false

const root = document.getElementById('root') as HTMLElement
const slug = root.dataset.slug ?? ''
const isDraft = new URLSearchParams(location.search).get('draft') === '1'

/** What answers in this browser, once the page was one that does. */
let ownAnswers: typeof import('./browser/ownAnswers').ownAnswers | null = null

const PAGE = {
  queryKey: ['page'],
  queryFn: async () => {
    const query = isDraft ? { draft: '1' } : {}
    const page = await expectData(api.GET('/api/v1/demos/{slug}/page', { params: { path: { slug }, query } }))
    await Promise.all([page.fields.some(isSeen) && loadSeenControl(), page.answer.kind === 'number' && loadNumberScale()])
    if (page.browser) {
      ownAnswers = (await import('./browser/ownAnswers')).ownAnswers
      return ownAnswers.take(page, isDraft)
    }
    return ownAnswers ? ownAnswers.afterChange(page) : page
  },
  // A process that is away comes back by itself.
  refetchInterval: (query: { state: { data?: Page } }) => (query.state.data?.away ? AWAY_LOOK_MS : false as const),
}

function Visitor() {
  const queries = useQueryClient()
  const page = useQuery(PAGE)
  // The workbench, which is outside React's reach, shows this page in a frame.
  useEffect(() => {
    const refresh = (event: MessageEvent) => {
      if (event.origin === location.origin && event.data === DRAFT_CHANGED) void queries.invalidateQueries()
    }
    window.addEventListener('message', refresh)
    return () => window.removeEventListener('message', refresh)
  }, [queries])
  const title = page.data?.title
  useEffect(() => {
    if (title) document.title = title
  }, [title])

  const hasFonts = useFonts()
  const trouble = page.error ?? page.failureReason
  if ((page.isPending || !hasFonts) && !trouble) return <p className="letters-at-hand px-5 py-24 text-center text-soft">Opening…</p>
  if (!page.data) {
    if (trouble instanceof ApiError && trouble.problem.status === 401) {
      return <PasscodeForm slug={slug} onOpen={() => void page.refetch()} />
    }
    return (
      <main className="mx-auto max-w-xl px-5 py-24">
        <h1 className="text-[1.6em] font-bold">This page cannot be shown just now</h1>
        <p className="mt-3 text-soft" role="status">
          {trouble?.message} {page.isPending && 'This page tries again by itself.'}
        </p>
        <button type="button" className="button-primary mt-5" onClick={() => void queries.resetQueries({ queryKey: ['page'] })}>
          Try again
        </button>
      </main>
    )
  }
  // Fields that come or go make another form; everything else is taken over as it is edited.
  const form = page.data.fields.map((field) => `${field.kind} ${field.name}`).sort().join('\n')
  return <VisitorPage key={form} page={page.data} isDraft={isDraft} onOutdated={() => void page.refetch()} />
}

/** Whether the page's own letters are there, or are not worth waiting for: text that changes its shape moves what is under it. */
function useFonts(): boolean {
  const [isReady, setIsReady] = useState(hasFonts)
  // Fonts are outside React.
  useEffect(() => {
    void fonts.then(() => setIsReady(true))
  }, [])
  return isReady
}

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      refetchOnWindowFocus: false,
      staleTime: Number.POSITIVE_INFINITY,
      retry: (count, error) => count < RETRIES && error instanceof ApiError && error.retryAfterMs !== null,
      // Offline is a fault like another: it is said, and tried again.
      networkMode: 'always',
      retryDelay: (count, error) => retryDelayMs(error instanceof ApiError ? (error.retryAfterMs ?? 0) : 0, count),
    },
  },
})

/** Draw the page as soon as it can be drawn as a whole. */
export function drawVisitorPage(): void {
  const whole = Promise.all([fonts, queries.prefetchQuery({ ...PAGE, retry: false })])
  void Promise.race([whole, new Promise((go) => setTimeout(go, OPENING_AFTER_MS))]).then(() => {
    createRoot(root).render(
      <StrictMode>
        <QueryClientProvider client={queries}>
          <Visitor />
        </QueryClientProvider>
      </StrictMode>,
    )
  })
}
