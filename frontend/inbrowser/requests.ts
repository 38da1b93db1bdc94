/** What the pages ask the API for, answered from the file: the same words, wherever it is worked out. */
import type { Inputs, Problem } from '../src/api/client'
import type { Door } from '../src/api/door'
import { ValueNotKnown } from '../runtime/errors'
import { ModelFailed } from './answering/answers'
import type { Answerer } from './answering/answerer'
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
}

/** `mark` is the file's own. */
export function answered(content: Content, answerer: Answerer, mark: string, { what, query, inputs }: Asked): Told {
  const { of, to, reach, field } = query
  try {
    switch (what) {
      case 'page':
        return found({ ...content.page, in_browser: content.page.in_browser && { ...content.page.in_browser, mark } })
      case 'predictions':
        return found(answerer.predict(inputs, { parts: new Set((query.with ?? '').split(',').filter(Boolean)), of, to, reach: reach === undefined ? undefined : Number(reach) }))
      case 'overall':
        return found(content.overall[of ?? ''])
      case 'report':
        return found(content.report)
      case 'among':
        return found(answerer.among(field ?? '', of ?? ''))
      default:
        return found(null)
    }
  } catch (error) {
    return problem(error)
  }
}

function found(body: unknown): Told {
  if (body !== null && body !== undefined) return { status: 200, body }
  return told({ title: 'Not in this file', status: 404, detail: 'This page is a file and asks no server. That part was not taken along.' })
}

/** What went wrong, in words that can be shown. */
function problem(error: unknown): Told {
  if (error instanceof InputFaults) return told({ title: 'The case cannot be read', status: 422, detail: error.message, errors: error.faults })
  if (error instanceof ModelFailed || error instanceof ValueNotKnown) return told({ title: 'No answer', status: 502, detail: 'The model cannot answer this case. Try other values.' })
  throw error
}

/** Whatever else goes wrong, no line to a server does. */
const FAILED = told({ title: 'It went wrong', status: 500, detail: 'Something in this page went wrong; this browser may have too little memory for it. Open the file again, or in another browser.' })

function told(problem: Partial<Problem> & { status: number }): Told {
  return { status: problem.status, body: { type: 'about:blank', errors: null, traceback: null, ...problem } }
}

/** A door for the pages to whoever answers. */
export function doorTo(ask: (asked: Asked) => Promise<Told>): Door {
  return async (request) => {
    const { pathname, searchParams } = new URL(request.url)
    const inputs = request.method === 'POST' ? ((await request.json()) as { inputs: Inputs }).inputs : {}
    const what = pathname.slice(pathname.lastIndexOf('/') + 1)
    const { status, body } = await ask({ what, query: Object.fromEntries(searchParams), inputs }).catch(() => FAILED)
    return new Response(JSON.stringify(body), { status, headers: { 'Content-Type': status < 300 ? 'application/json' : 'application/problem+json' } })
  }
}
