/** What the pages ask the API for, answered from the file: the same addresses, the same words. */
import type { Inputs, Problem } from '../src/api/client'
import { ValueNotKnown } from '../runtime/errors'
import { ModelFailed } from './answering/answers'
import type { Answerer } from './answering/answerer'
import { InputFaults } from './answering/inputs'
import type { Content } from './content'

/** Time for the page to be drawn before something long is worked out. */
const DRAWN_MS = 16

/** `mark` is the file's own. */
export function doorOf(content: Content, answerer: Answerer, mark: string): (request: Request) => Promise<Response> {
  return async (request) => {
    const { pathname, searchParams } = new URL(request.url)
    const what = pathname.slice(pathname.lastIndexOf('/') + 1)
    try {
      switch (what) {
        case 'page':
          return json({ ...content.page, in_browser: content.page.in_browser && { ...content.page.in_browser, mark } })
        case 'predictions':
          return json(await predicted(answerer, request, searchParams))
        case 'overall':
          return found(content.overall[searchParams.get('of') ?? ''])
        case 'report':
          return found(content.report)
        case 'among':
          return found(answerer.among(searchParams.get('field') ?? '', searchParams.get('of') ?? ''))
        default:
          return notHere()
      }
    } catch (error) {
      return problem(error)
    }
  }
}

async function predicted(answerer: Answerer, request: Request, query: URLSearchParams) {
  const { inputs } = (await request.json()) as { inputs: Inputs }
  const parts = new Set((query.get('with') ?? '').split(',').filter(Boolean))
  if (parts.size > 0) await new Promise((go) => setTimeout(go, DRAWN_MS))
  const [of, to, reach] = ['of', 'to', 'reach'].map((name) => query.get(name) ?? undefined)
  return answerer.predict(inputs, { parts, of, to, reach: reach === undefined ? undefined : Number(reach) })
}

function found(what: unknown): Response {
  return what === null || what === undefined ? notHere() : json(what)
}

function notHere(): Response {
  return said({ title: 'Not in this file', status: 404, detail: 'This page is a file and asks no server. That part was not taken along.' })
}

/** What went wrong, in words that can be shown. */
function problem(error: unknown): Response {
  if (error instanceof InputFaults) return said({ title: 'The case cannot be read', status: 422, detail: error.message, errors: error.faults })
  if (error instanceof ModelFailed || error instanceof ValueNotKnown) return said({ title: 'No answer', status: 502, detail: 'The model cannot answer this case. Try other values.' })
  throw error
}

function said(told: Partial<Problem>): Response {
  return new Response(JSON.stringify({ type: 'about:blank', errors: null, traceback: null, ...told }), {
    status: told.status,
    headers: { 'Content-Type': 'application/problem+json' },
  })
}

function json(body: unknown): Response {
  return new Response(JSON.stringify(body), { headers: { 'Content-Type': 'application/json' } })
}
