/** The visitor's page: fields on the left, the answer on the right. */
import { useCallback, useEffect, useMemo, useReducer, useRef, useState, useSyncExternalStore } from 'react'
import type { Inputs, InputValue, Page } from '../api/client'
import { isPicture, predict } from '../api/picture'
import { AnswerLine, DRAG_PAUSE_MS, DRAWING_PAUSE_MS, type AnswerState } from './answerLine'
import { listText } from '../parts/format'
import { CASE_SHOWN } from '../parts/caseShown'
import { AnswerPanel } from './AnswerPanel'
import { AnswerStrip } from './AnswerStrip'
import { isSeen, partsBehind, useBeside, withOutput } from './beside'
import { CaseContext } from './caseContext'
import { CurveTables } from './CurveTables'
import type { FieldMessage } from './FieldRow'
import { Fields } from './Fields'
import { readCaseFragment } from './caseLink'
import { defaultValues, followDefaults, formOf, formReducer, readForm, type FormValues } from './formState'
import { NO_HISTORY, remember, undo } from './history'
import type { KeptAnswer } from './Kept'
import { OverallSection } from './OverallSection'
import { SendCase } from './SendCase'
import { Trust } from './Trust'
import { whyOfFields, type FieldWhy } from './why'

export interface VisitorPageProps {
  page: Page
  /** Whether the draft is shown, to its author. */
  isDraft: boolean
}

export function VisitorPage({ page, isDraft }: VisitorPageProps) {
  const [of, setOf] = useState<string | undefined>(undefined)
  const { values, change, changeAll, state, explained, ask, reset, takeBack, canTakeBack } = useCase(page, isDraft, of)
  const { kept, keep, drop } = useKept(state)
  const why = useMemo(
    () => (explained ? whyOfFields(page.answer, explained.answer) : new Map<string, FieldWhy>()),
    [page.answer, explained],
  )
  const messages = useMemo(() => messagesOf(state), [state])
  const context = useMemo(
    () => ({ slug: page.slug, isDraft, samples: page.samples, onTry: changeAll, seen: (state.status === 'answered' && state.answer.seen) || {} }),
    [page.slug, isDraft, page.samples, changeAll, state],
  )
  return (
    <CaseContext value={context}>
    <div className="mx-auto max-w-[1240px] px-5 pb-16 min-[900px]:px-11">
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pt-6 pb-5">
        <h1 className="text-[1.4em] font-bold">{page.title}</h1>
        {page.purpose && <p className="text-soft">{page.purpose}</p>}
        {(page.not_for || page.description_html || page.report) && (
          <a href="#trust" className="button-quiet ml-auto text-[0.84em]">
            How far to trust it
          </a>
        )}
      </header>
      {(page.unconfirmed ?? []).map((text) => (
        <p key={text} className="mb-3 border-l-3 border-caution pl-4 text-[0.92em] text-caution">
          <span aria-hidden="true">! </span>
          Draft, to be confirmed under Model: {text.split(' Compare its answers')[0]}
        </p>
      ))}
      <AnswerStrip page={page} state={state} onAsk={ask} />
      <p className="sr-only" role="status">
        {announcement(state)}
      </p>
      <main className="mt-4 grid gap-x-10 min-[900px]:grid-cols-[5fr_7fr]">
        <form aria-label={`Your case: ${page.title}`} onSubmit={(event) => (event.preventDefault(), ask())}>
          {/* Room for the longer sentence from the start: controls must not move under a hand that drags one. */}
          {(page.parts.curves || page.parts.pushes) && !page.fields.every(isSeen) && (
            <p className="mb-3 min-h-[4.2rem] text-[0.88em] text-soft min-[900px]:min-h-[2.9rem]">
              {whyWords(page, [...why.values()][0])}
            </p>
          )}
          <Fields page={page} values={values} messages={messages} why={why} onChange={change} />
          {page.parts.curves && <CurveTables fields={page.fields} why={why} />}
          {/* Enter in any field asks; the button for it is in the answer. */}
          <button type="submit" className="sr-only" tabIndex={-1} aria-hidden="true">
            Show the answer
          </button>
        </form>
        <div className="card-line pt-6 min-[900px]:border-t-0 min-[900px]:border-l min-[900px]:border-line min-[900px]:pt-0 min-[900px]:pl-10">
          <div className="min-[900px]:sticky min-[900px]:top-6">
            <AnswerPanel
              page={page}
              isDraft={isDraft}
              state={state}
              explained={explained}
              kept={kept}
              onAsk={ask}
              onReset={reset}
              onTry={changeAll}
              onDrop={drop}
              onChoose={setOf}
            >
              {page.parts.compare && state.status === 'answered' && (
                <button type="button" className="button-primary" disabled={state.isStale} onClick={keep}>
                  Keep to compare
                </button>
              )}
              {canTakeBack && (
                <button type="button" className="button-plain" onClick={takeBack}>
                  Undo
                </button>
              )}
              <SendCase values={values} />
              {state.status === 'answered' && (
                <button type="button" className="button-plain" onClick={() => window.print()}>
                  Print
                </button>
              )}
            </AnswerPanel>
          </div>
        </div>
      </main>
      {page.parts.overall && page.fields.length > 1 && <OverallSection page={page} isDraft={isDraft} of={explained?.answer.explanation?.of ?? firstOutput(page)} />}
      <Trust page={page} />
    </div>
    </CaseContext>
  )
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
  }
}

/** Answers kept to compare; K keeps the one that stands. */
function useKept(state: AnswerState) {
  const [kept, setKept] = useState<KeptAnswer[]>([])
  const keep = useCallback(() => {
    if (state.status !== 'answered' || state.isStale) return
    const { inputs, answer } = state
    setKept((before) => [...before, { number: (before.at(-1)?.number ?? 0) + 1, inputs, answer: answer.answer }])
  }, [state])
  const drop = useCallback((number: number) => setKept((before) => before.filter((one) => one.number !== number)), [])
  // The keyboard is the browser's; a K that is typed into a field is a letter.
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const isTyping = event.target instanceof HTMLElement && event.target.matches('input:not([type=range]), textarea, select')
      if (event.key.toLowerCase() === 'k' && !event.ctrlKey && !event.metaKey && !event.altKey && !isTyping) keep()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [keep])
  return { kept, keep, drop }
}

/** What the curves and pushes at the fields are about. */
function whyWords(page: Page, why: FieldWhy | undefined): string {
  if (page.fields.every(isSeen)) return ''
  if (page.fields.every((field) => field.kind === 'text')) {
    return why ? `Under the text: which words pushed how likely “${why.of}” is.` : 'Once there is an answer, the text shows which words pushed it.'
  }
  if (!why) return 'Once there is an answer, each field shows how it would move if only this value moved.'
  if (!page.parts.curves) return 'Beside each field: how far your value pushed the answer.'
  const what = page.answer.kind === 'class' || page.answer.kind === 'labels' ? `how likely “${why.of}” is` : why.of
  return `Under each field: ${what}, if only this value moved. Beside it: how far your value pushed it.`
}

/** The form and the answer to what stands in it. */
function useCase(page: Page, isDraft: boolean, of: string | undefined) {
  const [linked] = useState(() => readCaseFragment(location.hash, page.fields))
  const [values, dispatch] = useReducer(formReducer, page.fields, (fields) => linked ?? defaultValues(fields))
  const [history, setHistory] = useState(NO_HISTORY)
  const [line] = useState(
    () =>
      new AnswerLine(
        (inputs) =>
          predict(page.slug, inputs, { ...(page.fields.some(isSeen) ? { with: 'seen' } : {}), ...(isDraft ? { draft: '1' } : {}) }),
        page.fields.some((field) => field.kind === 'drawing') ? DRAWING_PAUSE_MS : DRAG_PAUSE_MS,
      ),
  )
  const state = useSyncExternalStore(line.subscribe, line.read)
  const explained = useBeside(page, isDraft, state, withOutput(partsBehind(page), page, of))

  const askFor = useCallback(
    (form: FormValues) => {
      const read = readForm(page.fields, form)
      if (read.ok) line.ask(read.inputs)
      else line.refuse(read.faults)
    },
    [line, page.fields],
  )
  const change = (name: string, value: InputValue) => {
    const action = { type: 'set', name, value } as const
    // What is done to a picture is a step by itself, however soon the next follows; a drag is one step.
    const step = isPicture(value) && !value.strokes ? '' : name
    setHistory(remember(history, values, step, performance.now()))
    dispatch(action)
    askFor(formReducer(values, action))
  }
  const newest = useRef(change)
  newest.current = change
  const changeField = useCallback((name: string, value: InputValue) => newest.current(name, value), [])
  /** Several values at once, as one step to take back. */
  const takeAll = (inputs: Inputs) => {
    const next = { ...values, ...formOf(page.fields, inputs) }
    setHistory(remember(history, values, '', performance.now()))
    dispatch({ type: 'replace', values: next })
    askFor(next)
  }
  const newestAll = useRef(takeAll)
  newestAll.current = takeAll
  const changeAll = useCallback((inputs: Inputs) => newestAll.current(inputs), [])
  const takeBack = () => {
    const before = undo(history)
    if (!before) return
    setHistory(before.history)
    dispatch({ type: 'replace', values: before.values })
    askFor(before.values)
  }
  const reset = () => {
    setHistory(remember(history, values, '', performance.now()))
    dispatch({ type: 'replace', values: defaultValues(page.fields) })
    line.reset()
  }

  // The author's edits reach this page while it is open: values nobody touched follow the new defaults, and an answer
  // in the old wording must not stay.
  const shown = useRef(page.fields)
  useEffect(() => {
    const followed = followDefaults(values, shown.current, page.fields)
    shown.current = page.fields
    if (followed !== values) dispatch({ type: 'replace', values: followed })
    if (line.read().status === 'answered') askFor(followed)
    // Only the page's settings matter here; the values ask for themselves when they change.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [page.answer, page.fields])

  // A link to a case asks for itself: whoever opens it wants its answer. The address is outside React.
  useEffect(() => {
    if (linked) askFor(linked)
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [linked])

  // The workbench, which shows this page in a frame, makes ready cases of what stands here.
  useEffect(() => {
    const read = isDraft && window.parent !== window ? readForm(page.fields, values) : null
    if (read?.ok) window.parent.postMessage({ type: CASE_SHOWN, inputs: read.inputs }, location.origin)
  }, [isDraft, page.fields, values])

  const canTakeBack = history.past.length > 0
  return { values, change: changeField, changeAll, state, explained, ask: () => askFor(values), reset, takeBack, canTakeBack }
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

/** What a screen reader is told when the answer changes. */
function announcement(state: AnswerState): string {
  if (state.status !== 'answered' || state.isStale) return ''
  const { answer } = state.answer
  switch (answer.kind) {
    case 'class': {
      const likeliest = answer.probabilities[0]
      return likeliest ? `${answer.headline}: ${likeliest.of_100} of 100` : answer.headline
    }
    case 'number':
      return `${answer.text} ${answer.unit}`
    case 'numbers':
      return answer.values.map((item) => `${item.name} ${item.text} ${item.unit}`).join(', ')
    case 'labels':
      return `${listText(answer.labels.filter((item) => item.applies).map((item) => item.label)) || 'None'} applies`
  }
}
