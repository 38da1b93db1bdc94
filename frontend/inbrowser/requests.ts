/** What the pages ask the API for, answered from the file: the same words, wherever it is worked out. */
import type { Among, Inputs, PredictionAnswer, Problem } from '../src/api/client'
import type { Door } from '../src/api/door'
import type { IsOver } from './breath'
import { ValueNotKnown } from '../runtime/errors'
import { ModelFailed } from './answering/answers'
import type { Wanted } from './answering/answerer'
import { InputFaults } from './answering/inputs'
import type { Content } from './content'

/** The end of an address of the API, its query, and the case where one goes along. */
export interface Asked {
  what: string
  query: Record<string, string | undefined>
  inputs: Inputs
}

export interface Told {
  status: number
  body: unknown
  /** Instead of a body: a file's content. */
  bytes?: Uint8Array<ArrayBuffer>
}

/** Who answers. */
export interface Answers {
  predict: (inputs: Inputs, wanted: Wanted, isOver: IsOver) => Promise<PredictionAnswer>
  among?: (field: string, of: string) => Among | null
  sample?: (name: string) => Told | null
}

/** Answers line by line; ends with null, or with what went wrong before the first. */
export type Watch = (asked: Asked, onLine: (line: string) => void, signal: AbortSignal) => Promise<Told | null>

/** `mark` is the file's own. */
export async function answered(content: Content, answers: Answers, mark: string, { what, query, inputs }: Asked, isOver: IsOver = () => false): Promise<Told> {
  const { of, to, reach, field } = query
  try {
    switch (what) {
      case 'page':
        return pageOf(content, mark)
      case 'predictions':
        return found(await answers.predict(inputs, { parts: new Set((query.with ?? '').split(',').filter(Boolean)), of, to, reach: reach === undefined ? undefined : Number(reach) }, isOver))
      case 'overall':
        return found(content.overall[of ?? ''])
      case 'report':
        return found(content.report)
      case 'among':
        return found(answers.among?.(field ?? '', of ?? ''))
      case 'samples':
        return answers.sample?.(query.name ?? '') ?? found(null)
      default:
        return found(null)
    }
  } catch (error) {
    return problem(error)
  }
}

/** What the page is told of itself. */
export function pageOf({ page }: Content, mark: string): Told {
  return found({ ...page, in_browser: page.in_browser && { ...page.in_browser, mark } })
}

function found(body: unknown): Told {
  if (body !== null && body !== undefined) return { status: 200, body }
  return told({ title: 'Not in this file', status: 404, detail: 'This page is a file and asks no server. That part was not taken along.' })
}

/** What went wrong, in words that can be shown. */
export function problem(error: unknown): Told {
  if (error instanceof InputFaults) return told({ title: 'The case cannot be read', status: 422, detail: error.message, errors: error.faults })
  if (error instanceof ModelFailed || error instanceof ValueNotKnown) return told({ title: 'No answer', status: 502, detail: 'The model cannot answer this case. Try other values.' })
  if (error instanceof TooSlow) return told({ title: 'Not worked out', status: 422, detail: 'Where the model looked is not shown. The model takes too long for the many questions an explanation asks of it.' })
  throw error
}

/** It takes too long for so many questions. */
export class TooSlow extends Error {
  override name = 'TooSlow'
}

/** Whatever else goes wrong, no line to a server does. */
const FAILED = told({ title: 'It went wrong', status: 500, detail: 'Something in this page went wrong; this browser may have too little memory for it. Open the file again, or in another browser.' })

function told(problem: Partial<Problem> & { status: number }): Told {
  return { status: problem.status, body: { type: 'about:blank', errors: null, traceback: null, ...problem } }
}

/** A door for the pages to whoever answers; what `page` says is known already. */
export function doorTo({ ask, watch, page }: { ask: (asked: Asked, signal: AbortSignal) => Promise<Told>; watch?: Watch; page: Told }): Door {
  return async (request) => {
    const asked = await askedBy(request)
    if (asked.what === 'page') return responseOf(page)
    if (asked.what === 'where' && watch) return watched(watch, asked, request.signal)
    return unlessAborted(request.signal, ask(asked, request.signal).catch(() => FAILED).then(responseOf))
  }
}

/** As what is asked of a server ends when nobody waits for it any more. */
function unlessAborted<Result>(signal: AbortSignal, result: Promise<Result>): Promise<Result> {
  return new Promise((settle, fail) => {
    signal.throwIfAborted()
    signal.addEventListener('abort', () => fail(new DOMException('Not wanted any more', 'AbortError')), { once: true })
    result.then(settle, fail)
  })
}

/** A demo may be called anything, `samples` too. */
const SAMPLE = /\/demos\/[^/]+\/samples\/([^/]+)$/

async function askedBy(request: Request): Promise<Asked> {
  const { pathname, searchParams } = new URL(request.url)
  const inputs = request.method === 'POST' ? await inputsOf(request) : {}
  const [, sample] = SAMPLE.exec(pathname) ?? []
  const query = Object.fromEntries(searchParams)
  if (sample !== undefined) return { what: 'samples', query: { ...query, name: decodeURIComponent(sample) }, inputs }
  return { what: pathname.slice(pathname.lastIndexOf('/') + 1), query, inputs }
}

/** A case as it is sent: of pictures the files stand beside it in a form. */
async function inputsOf(request: Request): Promise<Inputs> {
  if (!request.headers.get('Content-Type')?.startsWith('multipart/form-data')) return ((await request.json()) as { inputs: Inputs }).inputs
  const form = await request.formData()
  const inputs = JSON.parse(String(form.get('inputs') ?? '{}')) as Record<string, object>
  for (const [name, file] of form) if (file instanceof Blob) inputs[name] = { ...inputs[name], file }
  return inputs as Inputs
}

/** What comes line by line; once the first is there it is known that there are any. */
function watched(watch: Watch, asked: Asked, signal: AbortSignal): Promise<Response> {
  const response = new Promise<Response>((settle) => {
    const lines = new TransformStream<Uint8Array, Uint8Array>()
    const writer = lines.writable.getWriter()
    let isBegun = false
    const begin = () => {
      if (!isBegun) settle(new Response(lines.readable, { headers: { 'Content-Type': 'application/x-ndjson' } }))
      isBegun = true
    }
    // Nobody reads any more: nothing is lost.
    const drop = () => undefined
    signal.addEventListener('abort', () => writer.abort().catch(drop), { once: true })
    const onLine = (line: string) => {
      writer.write(new TextEncoder().encode(`${line}\n`)).catch(drop)
      begin()
    }
    const end = (told: Told | null) => {
      writer.close().catch(drop)
      settle(responseOf(told ?? FAILED))
    }
    watch(asked, onLine, signal).then(end, () => end(FAILED))
  })
  return unlessAborted(signal, response)
}

function responseOf({ status, body, bytes }: Told): Response {
  if (bytes) return new Response(bytes, { status })
  return new Response(JSON.stringify(body), { status, headers: { 'Content-Type': status < 300 ? 'application/json' : 'application/problem+json' } })
}
