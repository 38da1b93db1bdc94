/** The one way from the pages to the API. Types come from the API's own description. */
import { askAtDoor } from './door'
import { linesOf } from './lines'
import createClient, { type Middleware } from 'openapi-fetch'
import type { PictureValue } from './picture'
import type { components, paths } from './types'

type Schemas = components['schemas']
export type Page = Schemas['Page']
export type Field = Page['fields'][number]
export type NumberField = Schemas['NumberField']
export type ChoiceField = Schemas['ChoiceField']
export type YesNoField = Schemas['YesNoField']
export type TextField = Schemas['TextField']
export type PictureField = Schemas['PictureField']
export type DrawingField = Schemas['DrawingField']
export type AnswerSetting = Page['answer']
export type ClassSetting = Schemas['ClassSetting']
export type ClassWording = Schemas['ClassWording']
export type PredictionAnswer = Schemas['PredictionAnswer']
export type Answer = PredictionAnswer['answer']
export type ClassAnswer = Schemas['ClassAnswer']
export type BoxesAnswer = Schemas['BoxesAnswer']
export type BoxesSetting = Schemas['BoxesSetting']
export type BoxReading = Schemas['BoxReading']
export type FoundBox = Schemas['FoundBox']
export type PictureAnswer = Schemas['PictureAnswer']
export type PictureSetting = Schemas['PictureSetting']
export type MaskAnswer = Schemas['MaskAnswer']
export type MaskSetting = Schemas['MaskSetting']
export type MaskedKind = Schemas['MaskedKind']
export type Note = Schemas['Note']
export type Explanation = Schemas['ExplanationAnswer']
export type Words = Schemas['WordsAnswer']
export type Contribution = Schemas['ContributionAnswer']
export type Curve = Schemas['CurveAnswer']
export type SimilarCase = Schemas['SimilarCase']
export type Way = Schemas['Way']
export type CheckResult = Schemas['CheckResult']
export type FullReport = Schemas['FullReport']
export type Estimate = Schemas['Estimate']
export type Group = Schemas['Group']
export type KnownCase = Schemas['KnownCase']
export type DriftEntry = Schemas['DriftEntry']
export type LiveReportState = Schemas['LiveReport']
export type Overall = Schemas['OverallAnswer']
export type OverallField = Schemas['OverallField']
export type Among = Schemas['AmongAnswer']
export type Problem = Schemas['Problem']
export type FieldProblem = Schemas['FieldProblem']
export type DemoState = Schemas['DemoState']
export type DemoChanges = Schemas['DraftChange']
export type FieldChanges = Schemas['FieldChanges']
export type AnswerChanges = Schemas['AnswerChanges']
export type ShelfEntry = Schemas['ShelfEntry']
export type DeletedEntry = Schemas['DeletedEntry']
export type Question = Schemas['Question']
export type Replaced = Schemas['Replaced']
export type NumberSetting = Schemas['NumberSetting']
export type LabelsSetting = Schemas['LabelsSetting']
export type NumbersSetting = Schemas['NumbersSetting']
export type ReleaseState = Schemas['ReleaseState']
export type SessionState = Schemas['SessionState']
export type Key = Schemas['Key']
export type AccessState = Schemas['AccessState']
export type AccessChange = Schemas['AccessChange']

export type JobView = Schemas['JobView']
export type FilmFrame = Schemas['FilmFrame']
export type FilmFrames = Schemas['FilmFrames']
export type FilmRow = Schemas['FilmRow']
export type TableLookView = Schemas['TableLook']
export type TableChanges = Schemas['TableChanges']

export type StarterLook = Schemas['StarterLook']
export type StarterColumn = Schemas['ColumnLook']
export type StarterFinding = Schemas['Finding']
export type StarterChanges = Schemas['StarterChanges']
export type StarterOrigin = Schemas['StarterOrigin']
export type Sheet = Schemas['Sheet']
export type Comparison = Schemas['Comparison']
export type KeptError = Schemas['KeptError']

export type InputValue = string | number | boolean | PictureValue | null
export type Inputs = Record<string, InputValue>

/** Something went wrong, in words that can be shown as they are. */
export class ApiError extends Error {
  readonly problem: Problem
  /** How long to wait before trying again, in milliseconds; null if trying again is no use. */
  readonly retryAfterMs: number | null

  constructor(problem: Problem, retryAfterMs: number | null) {
    super(problem.detail)
    this.name = 'ApiError'
    this.problem = problem
    this.retryAfterMs = retryAfterMs
  }
}

const OFFLINE: Problem = {
  type: 'about:blank',
  title: 'No connection',
  status: 0,
  detail: 'The server cannot be reached. Check the connection.',
  errors: null,
  traceback: null,
}
/** What waiting helps against, when the server does not say how long. */
const PASSING = new Set([0, 429, 502, 503, 504])
const LEAST_RETRY_MS = 1000
const MOST_RETRY_MS = 60_000

/** How long to wait before the next try: what was asked for, a second at least, and twice as long each time. */
export function retryDelayMs(askedMs: number, tries: number): number {
  return Math.max(Math.min(MOST_RETRY_MS, LEAST_RETRY_MS * 2 ** tries), askedMs)
}

/** `Retry-After` in milliseconds, whether it says seconds or a date; null for neither. */
export function retryAfterMs(header: string | null, now: number): number | null {
  if (!header) return null
  const seconds = Number(header)
  if (Number.isFinite(seconds)) return Math.max(0, seconds * 1000)
  const until = Date.parse(header)
  return Number.isNaN(until) ? null : Math.max(0, until - now)
}

let csrfToken: string | null = null

/** The session's token, which goes along with every change. */
export function rememberCsrfToken(token: string | null): void {
  csrfToken = token
}

const sendCsrfToken: Middleware = {
  onRequest({ request }) {
    if (csrfToken && request.method !== 'GET') request.headers.set('X-CSRF-Token', csrfToken)
    return request
  },
}

/** The tag of each draft as this window last saw it; a change says which it is about. */
const seenDrafts = new Map<string, string>()
const DRAFT_PATH = /^\/api\/v1\/demos\/([^/]+)(\/model)?$/

/** A change of a draft that somebody else has changed since is refused, not lost. */
const guardDrafts: Middleware = {
  onRequest({ request }) {
    const slug = DRAFT_PATH.exec(new URL(request.url).pathname)?.[1]
    const seen = slug && seenDrafts.get(slug)
    if (seen && request.method === 'PATCH') request.headers.set('If-Match', seen)
    return request
  },
  onResponse({ request, response }) {
    rememberDraft(new URL(request.url).pathname, response.status, response.headers.get('ETag'))
    return response
  },
}

function rememberDraft(path: string, status: number, tag: string | null): void {
  const slug = DRAFT_PATH.exec(path)?.[1]
  if (slug && tag && status < 300) seenDrafts.set(slug, tag)
}

export const api = createClient<paths>({ baseUrl: '/', fetch: askAtDoor })
api.use(sendCsrfToken)
api.use(guardDrafts)

/** The data of a call, or its problem thrown as an `ApiError`. */
export async function expectData<Data>(
  call: Promise<{ data?: Data; error?: unknown; response: Response }>,
): Promise<Data> {
  let result: { data?: Data; error?: unknown; response: Response }
  try {
    result = await call
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new ApiError(OFFLINE, 0)
  }
  if (!result.response.ok) throw toApiError(result.error, result.response.status, result.response.headers.get('Retry-After'))
  return result.data as Data
}

/** Any error body as an `ApiError`, also one that came from something in between. */
export function toApiError(body: unknown, status: number, retryAfter: string | null): ApiError {
  const isOurs = typeof body === 'object' && body !== null && 'detail' in body
  const problem: Problem = isOurs
    ? (body as Problem)
    : { ...OFFLINE, title: 'No answer', status, detail: status === 429 ? 'More was asked than this server takes from one visitor.' : 'The server did not answer as it should.' }
  // A 502 of our own says that the model failed on this case; one from in between passes.
  const isPassing = PASSING.has(status) && !(isOurs && status === 502)
  return new ApiError(problem, retryAfterMs(retryAfter, Date.now()) ?? (isPassing ? 0 : null))
}

export interface UploadProgress {
  /** From 0 to 1; then the server opens the model. */
  sent: number
}

/**
 * Bring what the author's notebook says of some cases.
 *
 * @throws ApiError
 */
export function sendExpected(slug: string, table: Blob): Promise<Schemas['ExpectedState']> {
  const form = new FormData()
  form.append('expected', table, 'expected.csv')
  return sendForm('PUT', `/api/v1/demos/${slug}/expected`, form, () => undefined)
}

/**
 * Have a table looked at; it waits for a word to begin.
 *
 * @throws ApiError
 */
export function sendTable(slug: string, table: File, isDraft: boolean, onProgress: (progress: UploadProgress) => void): Promise<JobView> {
  const form = new FormData()
  form.append('kind', 'table')
  form.append('hold', 'true')
  form.append('table', table, table.name)
  return sendForm('POST', `/api/v1/demos/${encodeURIComponent(slug)}/jobs${isDraft ? '?draft=1' : ''}`, form, onProgress)
}

/**
 * Have a film answered frame by frame; what does not fit is told at once.
 *
 * @throws ApiError
 */
export function sendFilm(slug: string, film: File, options: { inputs: Inputs; least_score: number }, isDraft: boolean, onProgress: (progress: UploadProgress) => void, signal: AbortSignal): Promise<JobView> {
  const form = new FormData()
  form.append('kind', 'video')
  form.append('options', JSON.stringify(options))
  form.append('video', film, film.name)
  return sendForm('POST', `/api/v1/demos/${encodeURIComponent(slug)}/jobs${isDraft ? '?draft=1' : ''}`, form, onProgress, signal)
}

/** Forget a job with all that came of it, even while the page goes away. Twice: once to cancel it, once to forget it. */
export async function forgetJob(id: string): Promise<void> {
  const again = () => fetch(`/api/v1/jobs/${id}`, { method: 'DELETE', keepalive: true, headers: csrfToken ? { 'X-CSRF-Token': csrfToken } : {} })
  // What is gone already is gone; what cannot be reached forgets it by itself.
  const first = await again().catch(() => null)
  if (first?.ok) await again().catch(() => null)
}

/**
 * Send a form; its answer's body. With XMLHttpRequest, which tells how much has been sent; fetch does not.
 *
 * @throws ApiError
 */
export function sendForm<Result>(method: string, path: string, form: FormData, onProgress: (progress: UploadProgress) => void, signal?: AbortSignal, headers: Record<string, string> = {}): Promise<Result> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open(method, path)
    if (csrfToken) request.setRequestHeader('X-CSRF-Token', csrfToken)
    for (const [name, value] of Object.entries(headers)) request.setRequestHeader(name, value)
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) onProgress({ sent: event.loaded / event.total })
    }
    request.onload = () => {
      let body: unknown
      try {
        body = JSON.parse(request.responseText)
      } catch {
        body = null
      }
      if (!path.includes('?try')) rememberDraft(path, request.status, request.getResponseHeader('ETag'))
      if (request.status < 300 && body) resolve(body as Result)
      else reject(toApiError(body, request.status, request.getResponseHeader('Retry-After')))
    }
    request.onerror = () => reject(new ApiError(OFFLINE, null))
    request.onabort = () => reject(new DOMException('given up', 'AbortError'))
    signal?.addEventListener('abort', () => request.abort())
    request.send(form)
  })
}

/**
 * Run the checks of a draft; each result comes as it ends.
 *
 * @throws ApiError
 */
export async function* runChecks(slug: string, signal: AbortSignal): AsyncGenerator<CheckResult> {
  const headers = { Accept: 'application/x-ndjson', 'X-CSRF-Token': csrfToken ?? '' }
  const response = await fetch(`/api/v1/demos/${encodeURIComponent(slug)}/checks`, { method: 'POST', signal, headers })
  if (!response.ok || !response.body) {
    throw toApiError(await response.json().catch(() => null), response.status, response.headers.get('Retry-After'))
  }
  for await (const line of linesOf(response.body)) yield JSON.parse(line) as CheckResult
}
