/** The visitor's page: fields on the left, the answer on the right; a picture is a window with the answer beside it. */
import { lazy, Suspense, useDeferredValue, useEffect, useEffectEvent, useMemo, useRef, useState } from 'react'
import type { Page } from '../../api/client'
import { withShownNumbers } from '../../domain/adding'
import { Actions } from '../answer/Actions'
import { AnswerPanel } from '../answer/AnswerPanel'
import type { Answered, AnswerState } from '../case/answerLine'
import { AnswerStrip } from '../answer/AnswerStrip'
import { useAnnouncement } from './announcing'
import { partsBehind, useBeside, withOutput } from '../case/beside'
import { isSeen } from '../../domain/kinds'
import { CaseContext } from '../case/caseContext'
import { CurveTables } from '../fields/CurveTables'
import type { FieldMessage } from '../fields/FieldRow'
import { Fields } from '../fields/Fields'
import { jump, useFocusKeeper } from './focus'
import { useLate } from '../case/late'
import { SendCase } from '../case/SendCase'
import { readSession, rememberSession, type Remembered } from '../case/session'
import { ShortcutKeys, useShortcut } from './ShortcutKeys'
import { Trust } from './Trust'
import { useCase } from '../case/useCase'
import { useKept } from '../case/useKept'
import { BoxesContext, useBoxesView } from '../pictures/boxesView'
import { MadeContext, useMadeView } from '../pictures/madeView'
import { useWhere } from '../pictures/where'
import { nameOf, whyOfFields, type FieldWhy } from '../../domain/why'
import { AwayNotice } from './AwayNotice'
import { Head } from './PageHead'
import { useRoomAsBefore } from './room'

export interface VisitorPageProps {
  page: Page
  /** Whether the draft is shown, to its author. */
  isDraft: boolean
  /** What the page was made of may be another by now: look. */
  onOutdated: () => void
}

const OverallSection = lazy(() => import('./OverallSection'))
const TableSection = lazy(() => import('../table/TableSection'))
const WhereAnswered = lazy(() => import('../browser/WhereAnswered'))
const FilmSection = lazy(() => import('../film/FilmSection'))

/** How long a case must stand before this tab writes it down. */
const REMEMBER_MS = 800

export function VisitorPage({ page, isDraft, onOutdated }: VisitorPageProps) {
  const [of, setOf] = useState<string | undefined>(undefined)
  const [brought] = useState(() => (isDraft ? null : readSession(page.slug)))
  const { values, change, changeAll, state, ask, stop, reset, askLower, takeBack, canTakeBack, isAsked } = useCase(page, isDraft, brought)
  const { explained, isComing } = useExplained(page, isDraft, state, of)
  const { where, isComing: isWhereComing, why: whyNotWhere } = useWhere(page, isDraft, state)
  const { kept, keep, drop } = useKept(state, brought?.kept ?? [])
  useRemembered(page.slug, isDraft, { values, isAsked, kept })
  const isLate = useLate(state.status === 'answered' && state.isStale, state.status === 'answered' ? state.answer : null) || (state.status === 'answered' && state.delay !== undefined)
  const isWhyLate = useLate(explained !== null && state.status === 'answered' && explained.inputs !== state.inputs, explained) || isLate
  const shown = isWhyLate ? null : explained
  const why = useMemo(() => (shown ? whyOfFields(page.answer, shown.answer) : NO_WHY), [page.answer, shown])
  const messages = useMemo(() => messagesOf(state), [state])
  const context = useMemo(
    () => ({ slug: page.slug, isDraft, samples: page.samples, onTry: changeAll, seen: (state.status === 'answered' && state.answer.seen) || {}, where, nameOfOutput: (name: string) => nameOf(page.answer, name), explains: page.parts.contributions === true, isInBrowser: Boolean(page.in_browser) }),
    [page.slug, page.answer, page.parts, page.in_browser, isDraft, page.samples, changeAll, state, where],
  )
  const boxes = useBoxesView(page, state, askLower)
  const made = useMadeView(page, state)
  const said = useAnnouncement(state)
  const keys = useShortcut('k', keep, page.parts.compare === true)
  useFocusKeeper()
  useOutdated(page, state, onOutdated)
  const isWindow = page.fields.every(isSeen)
  const main = useRef<HTMLElement>(null)
  const isInvited = state.status === 'invitation'
  useRoomAsBefore(main, isInvited)
  return (
    <CaseContext value={context}>
      <BoxesContext value={boxes}>
      <MadeContext value={made}>
      <a href="#answer" onClick={jump} className="sr-only z-30 bg-paper px-3 py-2 focus:not-sr-only focus:absolute focus:top-1 focus:left-2">
        Skip to the answer
      </a>
      <div className={`mx-auto px-5 pb-16 print:max-w-none print:px-0 ${isWindow ? 'max-w-[1300px] min-[900px]:px-6' : 'max-w-[1240px] min-[900px]:px-11'}`}>
        <Head page={page} />
        <AwayNotice page={page} />
        {page.browser && (
          <Suspense fallback={<div className="mb-2 min-h-[4.2rem] min-[900px]:min-h-[2.4rem]" />}>
            <WhereAnswered page={page} onChanged={onOutdated} />
          </Suspense>
        )}
        <AnswerStrip page={page} state={state} isLate={isLate} onAsk={ask} />
        <p className="sr-only" role="status" data-testid="announcement">
          {said}
        </p>
        <main ref={main} className={`mt-4 ${isInvited ? '' : 'min-[900px]:not-print:min-h-(--room)'} grid grid-cols-[minmax(0,1fr)] gap-x-10 print:block ${isWindow ? 'min-[900px]:grid-cols-[minmax(0,7fr)_minmax(0,5fr)] min-[1200px]:grid-cols-[minmax(0,48.5rem)_minmax(0,1fr)]' : 'min-[900px]:grid-cols-[minmax(0,5fr)_minmax(0,7fr)]'}`}>
          <form aria-label={`Your case: ${page.title}`} tabIndex={-1} className="print:hidden" onSubmit={(event) => (event.preventDefault(), ask())}>
            {/* Room for the longer sentence from the start: controls must not move under a hand that drags one. */}
            {(page.parts.curves || page.parts.contributions) && !isWindow && (
              <p className="mb-3 min-h-[4.2rem] text-[0.88em] text-soft min-[900px]:min-h-[2.9rem]">{whyWords(page, [...why.values()][0])}</p>
            )}
            <Fields page={page} values={values} messages={messages} why={why} onChange={change} />
            {page.parts.curves && <CurveTables fields={page.fields} why={why} />}
            {/* Enter in any field asks; the button for it is in the answer. */}
            <button type="submit" className="sr-only" tabIndex={-1} aria-hidden="true">
              Show the answer
            </button>
          </form>
          <div className={isWindow ? 'card-line pt-6 min-[900px]:border-t-0 min-[900px]:pt-0 print:border-0 print:p-0' : 'card-line pt-6 min-[900px]:border-t-0 min-[900px]:border-l min-[900px]:border-line min-[900px]:pt-0 min-[900px]:pl-10 print:border-0 print:p-0'}>
            <AnswerPanel
              page={page}
              isDraft={isDraft}
              state={state}
              isLate={isLate}
              isWhyLate={isWhyLate}
              isWhyComing={isComing || isWhereComing}
              explained={explained}
              where={where}
              whyNotWhere={whyNotWhere}
              kept={kept}
              onAsk={ask}
              onStop={stop}
              onTry={changeAll}
              onDrop={drop}
              onChoose={setOf}
            >
              <Actions page={page} state={state} onKeep={keep} keepKey={keys.isOn ? 'K' : undefined} onTakeBack={canTakeBack ? takeBack : null} onReset={isAsked ? reset : null}>
                <SendCase values={values} isFile={page.in_browser?.made_at != null} />
              </Actions>
            </AnswerPanel>
          </div>
        </main>
        {page.parts.overall && page.fields.length > 1 && (
          <Suspense>
            <OverallSection page={page} isDraft={isDraft} of={explained?.answer.explanation?.of ?? firstOutput(page)} />
          </Suspense>
        )}
        {page.parts.tables && (
          <Suspense>
            <TableSection page={page} isDraft={isDraft} />
          </Suspense>
        )}
        {page.parts.films && (
          <Suspense>
            <FilmSection page={page} isDraft={isDraft} values={values} />
          </Suspense>
        )}
        <Trust page={page} />
        {page.parts.compare && <ShortcutKeys {...keys} />}
      </div>
      </MadeContext>
      </BoxesContext>
    </CaseContext>
  )
}

const NO_WHY = new Map<string, FieldWhy>()

/** What explains the answer, put as it is shown: its numbers add up. */
function useExplained(page: Page, isDraft: boolean, state: AnswerState, of: string | undefined): { explained: Answered | null; isComing: boolean } {
  const { found, isComing } = useBeside(page, isDraft, state, withOutput(partsBehind(page), page, of))
  // A hand that drags goes before what explains: that is drawn when there is time, and never in between.
  const deferred = useDeferredValue(found)
  const explained = useMemo(() => deferred && { ...deferred, answer: withShownNumbers(page, deferred.answer) }, [page, deferred])
  return { explained, isComing: isComing || (found !== null && explained === null) }
}

/** This tab has the case and what was kept again after a reload. */
function useRemembered(slug: string, isDraft: boolean, remembered: Remembered) {
  const { values, isAsked, kept } = remembered
  const write = useEffectEvent(() => {
    if (!isDraft) void rememberSession(slug, remembered)
  })
  // The tab's own memory is outside React.
  useEffect(() => {
    const timer = setTimeout(() => write(), REMEMBER_MS)
    return () => clearTimeout(timer)
  }, [values, isAsked, kept])
  useEffect(() => {
    const leave = () => write()
    window.addEventListener('pagehide', leave)
    return () => window.removeEventListener('pagehide', leave)
  }, [])
}

/** Another version answers than the page is of, or nobody does: its process came or went while the page stood open. */
function useOutdated(page: Page, state: AnswerState, onOutdated: () => void) {
  const isOther = state.status === 'answered' && !state.isStale && state.answer.release !== page.release
  const isWaiting = state.status === 'waiting' || (state.status === 'answered' && state.delay !== undefined)
  const look = useEffectEvent(onOutdated)
  // What the server shows by now is outside React.
  useEffect(() => {
    if (isOther || isWaiting) look()
  }, [isOther, isWaiting])
}

/** What is looked at overall before there is an answer. */
function firstOutput({ answer }: Page): string {
  switch (answer.kind) {
    case 'class':
      return answer.classes[0]?.name ?? ''
    case 'labels':
      return answer.labels[0]?.name ?? ''
    case 'numbers':
      return answer.values[0]?.name ?? ''
    case 'number':
      return answer.name ?? ''
    case 'boxes':
    case 'mask':
      return answer.labels[0]?.name ?? ''
    case 'picture':
    case 'text':
    case 'table':
      return answer.name ?? ''
  }
}

/** What the curves and contributions at the fields are about. */
function whyWords(page: Page, why: FieldWhy | undefined): string {
  if (page.fields.every((field) => field.kind === 'text')) {
    return why ? `Under the text: which words spoke for “${why.of}”.` : 'Once there is an answer, the text shows which words spoke for it.'
  }
  if (!why) return 'Once there is an answer, each field shows how it would move if only this value moved.'
  const what = page.answer.kind === 'class' || page.answer.kind === 'labels' ? `how likely “${why.of}” is` : why.of
  if (!page.parts.curves) return `Beside each field: what your value adds to ${what}, or takes off it.`
  return `Under each field: ${what}, if only this value moved. Beside it: what your value adds to that, or takes off it.`
}

function messagesOf(state: AnswerState): Map<string, FieldMessage> {
  const messages = new Map<string, FieldMessage>()
  if (state.status === 'refused') {
    for (const fault of state.faults) if (fault.field) messages.set(fault.field, { level: 'fault', text: fault.message })
  }
  if (state.status === 'answered') {
    for (const note of state.answer.notes) if (note.field) messages.set(note.field, { level: 'warn', text: note.message })
  }
  return messages
}
