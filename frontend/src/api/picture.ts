/** A picture or a drawing as the page holds it, and the one way it is asked about. */
import { askAtDoor } from './door'
import { linesOf } from './lines'
import { api, ApiError, expectData, toApiError, type Inputs, type InputValue, type PredictionAnswer } from './client'
import type { components, paths } from './types'

export type Where = components['schemas']['WhereAnswer']
export type Point = [x: number, y: number, pressure: number]
export type Stroke = Point[]

/** What is cut out, in shares of the upright picture. */
export interface Cut {
  left: number
  top: number
  width: number
  height: number
}

export interface PictureValue {
  /** A file, however it came: chosen, dropped, pasted, taken or fetched. */
  file?: Blob
  /** One of the demo's own samples, by its name. */
  sample?: string
  /** A drawing's strokes. */
  strokes?: Stroke[]
  cut: Cut
  turn: 0 | 90 | 180 | 270
}

export const WHOLE: Cut = { left: 0, top: 0, width: 1, height: 1 }

export function isPicture(value: InputValue | undefined): value is PictureValue {
  return typeof value === 'object' && value !== null
}

type PredictionQuery = NonNullable<paths['/api/v1/demos/{slug}/predictions']['post']['parameters']['query']>

/** Ask for an answer; with a file in it the request is multipart, and the file goes as it is. */
export function predict(slug: string, inputs: Inputs, query: PredictionQuery, signal?: AbortSignal): Promise<PredictionAnswer> {
  const parts = partsOf(inputs)
  return expectData(
    api.POST('/api/v1/demos/{slug}/predictions', {
      params: { path: { slug }, query },
      ...(signal ? { signal } : {}),
      body: parts.body as never,
      // A form sets its own type, with the boundary in it.
      ...(parts.isForm ? { bodySerializer: () => parts.body as FormData } : {}),
    }),
  )
}

/**
 * Where the model looked, sharper with every call of `onNews`.
 *
 * @throws ApiError
 */
export async function lookWhere(
  slug: string,
  inputs: Inputs,
  query: { field: string; of?: string; draft?: string },
  signal: AbortSignal,
  onNews: (where: Where) => void,
): Promise<void> {
  const parts = partsOf(inputs)
  const address = `/api/v1/demos/${encodeURIComponent(slug)}/where?${new URLSearchParams(query)}`
  const response = await askAtDoor(new Request(new URL(address, location.href), { ...sentAs(parts), signal }))
  if (!response.ok || !response.body) {
    throw toApiError(await response.json().catch(() => null), response.status, response.headers.get('Retry-After'))
  }
  for await (const line of linesOf(response.body)) {
    const said = JSON.parse(line) as Where | { detail: string }
    if ('detail' in said) throw new ApiError({ type: 'about:blank', title: 'Stopped', status: 503, detail: said.detail, errors: null, traceback: null }, null)
    onNews(said)
  }
}

/** The picture a link leads to, fetched by the server. */
export async function fetchLink(slug: string, link: string, draft: boolean): Promise<Blob> {
  const address = `/api/v1/demos/${encodeURIComponent(slug)}/fetched${draft ? '?draft=1' : ''}`
  const response = await askAtDoor(new Request(new URL(address, location.href), { method: 'POST', body: JSON.stringify({ link }), headers: { 'Content-Type': 'application/json' } }))
  if (!response.ok) throw toApiError(await response.json().catch(() => null), response.status, response.headers.get('Retry-After'))
  return response.blob()
}

export interface SavedBoxes {
  as: 'picture' | 'csv'
  leastScore: number
  /** Kinds by their names in the model; all of them if there are none. */
  only: string[]
  isDraft: boolean
}

/**
 * What was found in a picture, as a file.
 *
 * @throws ApiError
 */
export async function saveBoxes(slug: string, inputs: Inputs, { as, leastScore, only, isDraft }: SavedBoxes): Promise<{ content: Blob; name: string }> {
  const query = new URLSearchParams([['as', as], ['least_score', String(leastScore)], ...only.map((name) => ['only', name]), ...(isDraft ? [['draft', '1']] : [])])
  return fetchFile(`/api/v1/demos/${encodeURIComponent(slug)}/boxes?${query}`, inputs)
}

/**
 * What was made of a picture, as a file in full size; of a mask the picture with the mask over it, or that alone.
 *
 * @throws ApiError
 */
export async function saveMade(slug: string, inputs: Inputs, as: 'picture' | 'mask', isDraft: boolean): Promise<{ content: Blob; name: string }> {
  return fetchFile(`/api/v1/demos/${encodeURIComponent(slug)}/made?${new URLSearchParams({ as, ...(isDraft ? { draft: '1' } : {}) })}`, inputs)
}

/** What comes of a case as a file, with the name the server gives it. */
async function fetchFile(address: string, inputs: Inputs): Promise<{ content: Blob; name: string }> {
  const parts = partsOf(inputs)
  const response = await askAtDoor(new Request(new URL(address, location.href), sentAs(parts)))
  if (!response.ok) throw toApiError(await response.json().catch(() => null), response.status, response.headers.get('Retry-After'))
  const name = /filename="([^"]+)"/.exec(response.headers.get('Content-Disposition') ?? '')?.[1]
  return { content: await response.blob(), name: name ?? 'answer' }
}

function sentAs({ body, isForm }: ReturnType<typeof partsOf>): RequestInit {
  return { method: 'POST', body: body instanceof FormData ? body : JSON.stringify(body), headers: isForm ? {} : { 'Content-Type': 'application/json' } }
}

/** The request's body, and whether it is a form with files. */
export function partsOf(inputs: Inputs): { body: FormData | { inputs: Record<string, unknown> }; isForm: boolean } {
  const form = new FormData()
  const plain: Record<string, unknown> = {}
  let isForm = false
  for (const [name, value] of Object.entries(inputs)) {
    if (!isPicture(value)) {
      plain[name] = value
      continue
    }
    const { file, sample, strokes, cut, turn } = value
    const isWhole = cut.left === 0 && cut.top === 0 && cut.width === 1 && cut.height === 1
    plain[name] = { ...(isWhole ? {} : cut), ...(turn ? { turn } : {}), ...(sample ? { sample } : {}), ...(strokes ? { strokes } : {}) }
    if (file) {
      form.append(name, file, 'picture')
      isForm = true
    }
  }
  form.append('inputs', JSON.stringify(plain))
  return isForm ? { body: form, isForm } : { body: { inputs: plain }, isForm }
}
