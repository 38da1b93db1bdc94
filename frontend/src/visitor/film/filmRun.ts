/** One film on its way: sent, then followed frame by frame until it is over. Who leaves takes it along. */
import { api, ApiError, expectData, forgetJob, sendFilm, type FilmFrame, type FilmRow, type Inputs, type JobView } from '../../api/client'
import { LOWEST_SCORE } from '../pictures/boxesView'

export interface FilmState {
  /** What was chosen; null for nothing. */
  file: File | null
  /** Where this browser plays it from. */
  address: string
  /** From 0 to 1 while it is sent; null otherwise. */
  sent: number | null
  job: JobView | null
  rows: FilmRow[]
  frames: FilmFrame[]
  error: Error | null
}

const NOTHING: FilmState = { file: null, address: '', sent: null, job: null, rows: [], frames: [], error: null }
const FOLLOW_MS = 350
/** Once it is over it stays for as long as somebody asks about it. */
const STAY_MS = 60_000
const ENDED = new Set(['done', 'failed', 'cancelled'])

export class FilmRun {
  readonly #slug: string
  readonly #isDraft: boolean
  readonly #listeners = new Set<() => void>()
  #state = NOTHING
  #control = new AbortController()

  constructor(slug: string, isDraft: boolean) {
    this.#slug = slug
    this.#isDraft = isDraft
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }

  readonly read = (): FilmState => this.#state

  readonly send = async (file: File, inputs: Inputs): Promise<void> => {
    this.drop()
    const { signal } = this.#control
    this.#set({ ...NOTHING, file, address: URL.createObjectURL(file), sent: 0 })
    try {
      const job = await sendFilm(this.#slug, file, { inputs, least_score: LOWEST_SCORE }, this.#isDraft, ({ sent }) => this.#set({ sent }), signal)
      if (signal.aborted) return void forgetJob(job.id)
      this.#set({ sent: null, job })
      await this.#follow(job.id, signal)
    } catch (error) {
      if (!signal.aborted) this.#fail(error)
    }
  }

  /** One of the demo's own: fetched, then as any other. */
  readonly sendReady = async (place: number, title: string, inputs: Inputs): Promise<void> => {
    const response = await fetch(`/api/v1/demos/${encodeURIComponent(this.#slug)}/films/${place}${this.#isDraft ? '?draft=1' : ''}`).catch(() => null)
    if (response?.ok) return this.send(new File([await response.blob()], title), inputs)
    this.#set({ ...NOTHING, error: new Error('The film cannot be had just now. Try again.') })
  }

  /** Cancels it, and has all of it forgotten. */
  readonly drop = (): void => {
    const { address, job } = this.#state
    this.#control.abort()
    this.#control = new AbortController()
    if (address) URL.revokeObjectURL(address)
    if (job) void forgetJob(job.id)
    if (this.#state !== NOTHING) this.#set(NOTHING)
  }

  async #follow(id: string, signal: AbortSignal): Promise<void> {
    let tries = 0
    let isOver = false
    while (!signal.aborted) {
      try {
        const offset = this.#state.frames.length
        const news = await expectData(api.GET('/api/v1/jobs/{job_id}/frames', { params: { path: { job_id: id }, query: { offset: String(offset) } }, signal }))
        const frames = news.frames.length ? [...this.#state.frames, ...news.frames] : this.#state.frames
        this.#set({ job: news.job, rows: news.rows, frames })
        tries = 0
        isOver = ENDED.has(news.job.state) && frames.length >= news.job.done
      } catch (error) {
        // What passes is waited for; the job goes on meanwhile.
        if (signal.aborted || !(error instanceof ApiError) || error.retryAfterMs === null || (tries += 1) > 20) throw error
      }
      await pause(isOver ? STAY_MS : FOLLOW_MS * (1 + tries))
    }
  }

  #fail(error: unknown): void {
    const { address } = this.#state
    if (address && !this.#state.job) URL.revokeObjectURL(address)
    const isLost = !this.#state.job
    this.#set({ ...(isLost ? NOTHING : this.#state), sent: null, error: error instanceof Error ? error : new Error(String(error)) })
  }

  #set(news: Partial<FilmState>): void {
    this.#state = news === NOTHING ? NOTHING : { ...this.#state, ...news }
    for (const listener of this.#listeners) listener()
  }
}

function pause(ms: number): Promise<void> {
  return new Promise((done) => setTimeout(done, ms))
}
