/** The form and the answer to what stands in it: asking, undo, links to a case, and what is brought back. */
import { useCallback, useEffect, useEffectEvent, useReducer, useRef, useState, useSyncExternalStore } from 'react'
import type { Inputs, InputValue, Page } from '../../api/client'
import { onAnswering } from '../../api/door'
import { isPicture, predict } from '../../api/picture'
import { CASE_SHOWN, SHOW_CASE } from '../../parts/caseShown'
import { AnswerLine, DRAG_PAUSE_MS, DRAWING_PAUSE_MS } from './answerLine'
import { isSeen } from '../../domain/kinds'
import { SHOWN_SIDE } from '../pictures/madeView'
import { caseFragment, readCaseFragment } from '../../domain/caseLink'
import { defaultValues, followDefaults, formOf, formReducer, readForm, type FormValues } from '../../domain/formState'
import { NO_HISTORY, remember, undo, type Step } from '../../domain/history'
import type { Remembered } from './session'

/** The address follows once nothing has moved for so long; browsers refuse one that changes with every pixel. */
const ADDRESS_REST_MS = 600
/** Longer ends of an address are cut off on their way through mails. */
const LONGEST_FRAGMENT = 8000

export function useCase(page: Page, isDraft: boolean, brought: Remembered | null) {
  const [start] = useState<Step>(() => startOf(page, brought))
  const [values, dispatch] = useReducer(formReducer, start.values)
  const [history, setHistory] = useState(NO_HISTORY)
  const leastScore = useRef<number | null>(null)
  const line = useLine(page, isDraft, leastScore)
  const state = useSyncExternalStore(line.subscribe, line.read)
  const isAsked = state.status !== 'invitation'

  const askFor = useCallback(
    (form: FormValues) => {
      const read = readForm(page.fields, form)
      if (read.ok) line.ask(read.inputs)
      else line.refuse(read.faults)
    },
    [line, page.fields],
  )
  const stand = useCallback(
    (step: Step) => {
      dispatch({ type: 'replace', values: step.values })
      if (step.isAsked) askFor(step.values)
      else line.reset()
    },
    [askFor, line],
  )
  const now = useRef<Step>(start)
  now.current = { values, isAsked }
  const leave = useAddress(page, isDraft, now, stand)

  const change = useCallback(
    (name: string, value: InputValue) => {
      const before = now.current
      // What is done to a picture is a step by itself, however soon the next follows; a drag is one step.
      const step = isPicture(value) && !value.strokes ? '' : name
      setHistory((past) => remember(past, before, step, performance.now()))
      const next = formReducer(before.values, { type: 'set', name, value })
      now.current = { values: next, isAsked: true }
      dispatch({ type: 'replace', values: next })
      const read = page.asks === 'button' ? readForm(page.fields, next) : null
      if (read?.ok) line.hold(read.inputs)
      else askFor(next)
    },
    [askFor, line, page.asks, page.fields],
  )
  /** To another case, as one step to take back and one to go back from. */
  const leap = useCallback(
    (to: Step) => {
      const before = now.current
      setHistory((past) => remember(past, before, '', performance.now()))
      leave()
      now.current = to
      stand(to)
    },
    [leave, stand],
  )
  const changeAll = useCallback(
    (inputs: Inputs) => leap({ values: { ...now.current.values, ...formOf(page.fields, inputs) }, isAsked: true }),
    [leap, page.fields],
  )
  const reset = useCallback(() => leap({ values: defaultValues(page.fields), isAsked: false }), [leap, page.fields])
  const takeBack = () => {
    const before = undo(history)
    if (!before) return
    setHistory(before.history)
    stand(before.step)
  }
  const ask = useCallback(() => {
    askFor(now.current.values)
    line.askAgain()
  }, [askFor, line])

  /** Of boxes: ask once more, for lower scores too. */
  const askLower = useCallback(
    (score: number) => {
      leastScore.current = score
      ask()
    },
    [ask],
  )

  // What was linked to or brought back asks for itself: whoever opens it wants its answer.
  useEffect(() => {
    if (start.isAsked) askFor(start.values)
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [start])
  useFollowedDefaults(page, values, dispatch, (followed) => {
    const asked = line.read()
    if (asked.status !== 'answered' && asked.status !== 'waiting') return
    askFor(followed)
    // What waited for a server, or a process, that was away need not wait for another version.
    if (asked.status === 'waiting' || !asked.isHeld) line.askAgain()
  })
  useShownInBench(page, isDraft, values, changeAll)
  // The connection that is back is outside React.
  useEffect(() => {
    window.addEventListener('online', line.askAgain)
    return () => window.removeEventListener('online', line.askAgain)
  }, [line])
  // So is what a page answers by in its visitor's browser.
  useEffect(() => onAnswering(line.askAgain), [line])

  const canTakeBack = history.past.length > 0
  return { values, change, changeAll, state, ask, stop: line.stop, askLower, reset, takeBack, canTakeBack, isAsked }
}

/** What a link says comes first, then what this tab had, then what is usual. */
function startOf(page: Page, brought: Remembered | null): Step {
  const linked = readCaseFragment(location.hash, page.fields)
  if (linked) return { values: linked, isAsked: true }
  if (brought && page.fields.every((field) => field.name in brought.values)) return { values: brought.values, isAsked: brought.isAsked }
  return { values: defaultValues(page.fields), isAsked: false }
}

function useLine(page: Page, isDraft: boolean, leastScore: { current: number | null }): AnswerLine {
  const [line] = useState(
    () =>
      new AnswerLine(
        (inputs, signal) =>
          predict(page.slug, inputs, {
            ...(page.fields.some(isSeen) ? { with: 'seen' } : {}),
            ...(isDraft ? { draft: '1' } : {}),
            ...(leastScore.current === null ? {} : { least_score: leastScore.current }),
            ...(page.answer.kind === 'picture' || page.answer.kind === 'mask' ? { most_side: SHOWN_SIDE } : {}),
          }, signal),
        page.fields.some((field) => field.kind === 'drawing') ? DRAWING_PAUSE_MS : DRAG_PAUSE_MS,
      ),
  )
  return line
}

/** The address carries the case that stands here, so that reload, back and forward bring it back. Gives what is called
 * before a leap: the case stays behind as an entry of the browser's history. */
function useAddress(page: Page, isDraft: boolean, now: { current: Step }, stand: (step: Step) => void): () => void {
  const isFramed = isDraft && window.parent !== window
  const { values, isAsked } = now.current
  const [entries] = useState(() => new Entries())
  // The address is outside React.
  useEffect(() => {
    if (isFramed) return
    const timer = setTimeout(() => window.history.replaceState(window.history.state, '', addressOf(now.current)), ADDRESS_REST_MS)
    return () => clearTimeout(timer)
  }, [isFramed, now, values, isAsked])
  useEffect(() => {
    // Pasted into the open tab, gone back to or forward to: each is a step of the browser's.
    const arrive = () => {
      const known = entries.arrive(now.current)
      const linked = readCaseFragment(location.hash, page.fields)
      if (known) stand(known)
      else if (linked) stand({ values: linked, isAsked: true })
      else if (!location.hash) stand({ values: defaultValues(page.fields), isAsked: false })
    }
    window.addEventListener('popstate', arrive)
    return () => window.removeEventListener('popstate', arrive)
  }, [entries, now, page.fields, stand])
  return useCallback(() => {
    if (!isFramed) entries.leave(now.current, addressOf(now.current))
  }, [entries, isFramed, now])
}

/** Whole cases by their entry in the browser's history: an address has no room for pictures. */
class Entries {
  /** Of all of them: React may make one and drop it again. */
  static #count = 0
  readonly #steps = new Map<string, Step>()
  #here = this.#named()

  /** Leave `step` behind under its address, and go on in an entry of its own. */
  leave(step: Step, address: string): void {
    this.#steps.set(this.#here, step)
    window.history.replaceState({ entry: this.#here }, '', address)
    this.#here = this.#fresh()
    window.history.pushState({ entry: this.#here }, '', address)
  }

  /** What stood in the entry that the browser went to, if it was left since the page was loaded. */
  arrive(from: Step): Step | undefined {
    this.#steps.set(this.#here, from)
    this.#here = this.#named()
    return this.#steps.get(this.#here)
  }

  /** The name of the entry that the browser is at; one without gets one. */
  #named(): string {
    const known = (window.history.state as { entry?: string } | null)?.entry
    if (known) return known
    const entry = this.#fresh()
    window.history.replaceState({ entry }, '', location.href)
    return entry
  }

  /** No other load of the page has given this one: entries outlive it. */
  #fresh(): string {
    Entries.#count += 1
    return `${performance.timeOrigin}-${Entries.#count}`
  }
}

function addressOf({ values, isAsked }: Step): string {
  // A picture of one's own cannot go along: an address that left it out would be another case's.
  const isOwn = Object.values(values).some((value) => isPicture(value) && value.file)
  const fragment = isAsked && !isOwn ? caseFragment(values) : ''
  return `${location.pathname}${location.search}${fragment.length > LONGEST_FRAGMENT ? '' : fragment}`
}

/** The author's edits reach this page while it is open: values nobody touched follow the new defaults, and an answer in
 * the old wording, or of another version, must not stay. */
function useFollowedDefaults(page: Page, values: FormValues, dispatch: (action: { type: 'replace'; values: FormValues }) => void, onFollowed: (values: FormValues) => void) {
  const shown = useRef(page.fields)
  useEffect(() => {
    const followed = followDefaults(values, shown.current, page.fields)
    shown.current = page.fields
    if (followed !== values) dispatch({ type: 'replace', values: followed })
    onFollowed(followed)
    // Only the page's settings matter here; the values ask for themselves when they change.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [page.answer, page.fields, page.release, page.in_browser === null])
}

/** The workbench, which shows this page in a frame, makes ready cases of what stands here. */
function useShownInBench(page: Page, isDraft: boolean, values: FormValues, onShow: (inputs: Inputs) => void) {
  const isFramed = isDraft && window.parent !== window
  useEffect(() => {
    const read = isFramed ? readForm(page.fields, values) : null
    if (read?.ok) window.parent.postMessage({ type: CASE_SHOWN, inputs: read.inputs }, location.origin)
  }, [isFramed, page.fields, values])
  const listen = useEffectEvent((event: MessageEvent<{ type?: string; inputs?: Inputs }>) => {
    if (event.origin === location.origin && event.source === window.parent && event.data?.type === SHOW_CASE && event.data.inputs) onShow(event.data.inputs)
  })
  useEffect(() => {
    if (!isFramed) return
    window.addEventListener('message', listen)
    return () => window.removeEventListener('message', listen)
  }, [isFramed])
}
