/**
 * The line between the controls and the model: one request at a time, always the newest inputs next.
 *
 * Inputs that come while a request is under way wait; newer ones take their place. So an older answer can never be
 * shown over a newer one, and a slow model is never asked about values that have already been left.
 */
import { ApiError, retryDelayMs, type FieldProblem, type Inputs, type PredictionAnswer } from '../../api/client'

export type AnswerState =
  /** Nothing has been asked. */
  | { status: 'invitation' }
  /** The first answer is on its way. */
  | { status: 'asking' }
  /** `answer` is what the model says of `inputs`; `isStale` while newer inputs are being asked, `delay` why that lasts;
   * `isHeld` while newer ones wait to be asked about. */
  | { status: 'answered'; answer: PredictionAnswer; inputs: Inputs; isStale: boolean; delay?: string; isHeld?: boolean }
  /** The newest inputs cannot be used. */
  | { status: 'refused'; faults: FieldProblem[] }
  /** No answer now; asked again by itself after a pause. */
  | { status: 'waiting'; message: string }
  /** No answer, and nothing that goes on by itself. */
  | { status: 'failed'; message: string; traceback: string | null }

export type Answered = Extract<AnswerState, { status: 'answered' }>

/** Twice the time between two frames of a screen: 30 requests a second. */
export const DRAG_PAUSE_MS = 33

/** A pen is followed more closely; still below what the server takes from one visitor. */
export const DRAWING_PAUSE_MS = 22

/** Asks about these inputs; given up when `signal` says so. */
export type Ask = (inputs: Inputs, signal: AbortSignal) => Promise<PredictionAnswer>

export class AnswerLine {
  readonly #ask: Ask
  readonly #pauseMs: number
  readonly #listeners = new Set<() => void>()
  #state: AnswerState = { status: 'invitation' }
  #next: Inputs | null = null
  #isAsking = false
  #lastAsked = Number.NEGATIVE_INFINITY
  #timer: ReturnType<typeof setTimeout> | undefined
  /** Raised by `reset`: answers to what was asked before it are no longer wanted. */
  #round = 0
  /** How often the newest inputs were asked about in vain. */
  #tries = 0
  /** Gives up the request that is under way. */
  #control = new AbortController()
  /** What is being asked, or was asked last. */
  #asked: Inputs | null = null
  /** What waits to be asked again. */
  #waiting: Inputs | null = null

  /**
   * @param pauseMs from one request to the next at the least: a drag asks for what eyes can follow, and stays below what
   * the server takes from one visitor
   */
  constructor(ask: Ask, pauseMs = 0) {
    this.#ask = ask
    this.#pauseMs = pauseMs
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }

  readonly read = (): AnswerState => this.#state

  /** Ask about these inputs, as soon as what is under way has come back. */
  readonly ask = (inputs: Inputs): void => {
    // While a server asks for patience, newer values wait too: a drag must not ask it thirty times a second.
    if (this.#waiting) {
      this.#waiting = inputs
      return
    }
    this.#askNow(inputs)
  }

  /** Keep these inputs until somebody asks about them: the answer to the ones before is marked as theirs. */
  readonly hold = (inputs: Inputs): void => {
    this.#waiting = inputs
    this.#next = null
    clearTimeout(this.#timer)
    if (this.#state.status === 'answered') this.#set({ ...this.#state, isStale: true, isHeld: true, delay: undefined })
    else if (this.#state.status !== 'invitation') this.reset()
  }

  /** Ask at once what waits to be asked again: somebody pressed a button for it, or the connection is back. */
  readonly askAgain = (): void => {
    if (this.#waiting) this.#askNow(this.#waiting)
  }

  #askNow(inputs: Inputs): void {
    this.#next = inputs
    this.#waiting = null
    clearTimeout(this.#timer)
    if (this.#state.status === 'answered') this.#set({ ...this.#state, isStale: true, isHeld: false })
    else if (this.#state.status !== 'waiting') this.#set({ status: 'asking' })
    if (!this.#isAsking) void this.#run()
  }

  /** Show that the inputs cannot be used, without asking. */
  readonly refuse = (faults: FieldProblem[]): void => {
    this.#next = this.#waiting = null
    this.#round += 1
    clearTimeout(this.#timer)
    this.#set({ status: 'refused', faults })
  }

  /** Wait no longer: an answer that stands stays, as that to what stood here before; nothing that was asked is lost. */
  readonly stop = (): void => {
    const inputs = this.#next ?? this.#waiting ?? this.#asked
    this.#round += 1
    this.#control.abort()
    if (this.#state.status === 'answered' && inputs) this.hold(inputs)
    else if (inputs) {
      this.#next = null
      this.#waiting = inputs
      clearTimeout(this.#timer)
      this.#set({ status: 'failed', message: 'You stopped it. Nothing you gave is lost.', traceback: null })
    }
  }

  /** Back to the invitation. */
  readonly reset = (): void => {
    this.#next = this.#waiting = null
    this.#round += 1
    clearTimeout(this.#timer)
    this.#set({ status: 'invitation' })
  }

  async #run(): Promise<void> {
    this.#isAsking = true
    while (this.#next) {
      const left = this.#lastAsked + this.#pauseMs - performance.now()
      if (left > 0) {
        // Newer inputs may come meanwhile, or a reset.
        await new Promise((resolve) => setTimeout(resolve, left))
        continue
      }
      const inputs = this.#next
      this.#asked = inputs
      const round = this.#round
      this.#lastAsked = performance.now()
      this.#next = null
      let state: AnswerState
      try {
        this.#control = new AbortController()
        const answer = await this.#ask(inputs, this.#control.signal)
        state = { status: 'answered', answer, inputs, isStale: false }
        this.#tries = 0
      } catch (error) {
        state = this.#afterError(error, inputs, round)
      }
      if (round !== this.#round) continue
      const isNewest = this.#next === null
      if (state.status === 'answered' && state.delay === undefined) this.#set({ ...state, isStale: !isNewest })
      else if (isNewest) this.#set(state)
    }
    this.#isAsking = false
  }

  #afterError(error: unknown, inputs: Inputs, round: number): AnswerState {
    if (!(error instanceof ApiError)) {
      return { status: 'failed', message: 'Something went wrong on this page.', traceback: null }
    }
    if (error.problem.errors?.length && error.problem.status === 422) {
      return { status: 'refused', faults: error.problem.errors }
    }
    if (error.retryAfterMs !== null) {
      if (round !== this.#round) return this.#state
      // What came meanwhile is newer.
      this.#waiting = this.#next ?? inputs
      this.#next = null
      this.#timer = setTimeout(this.askAgain, retryDelayMs(error.retryAfterMs, this.#tries))
      this.#tries += 1
      const message = `${error.problem.detail} This page asks again by itself.`
      return this.#state.status === 'answered' ? { ...this.#state, isStale: true, delay: message } : { status: 'waiting', message }
    }
    return { status: 'failed', message: error.problem.detail, traceback: error.problem.traceback ?? null }
  }

  #set(state: AnswerState): void {
    this.#state = state
    for (const listener of this.#listeners) listener()
  }
}
