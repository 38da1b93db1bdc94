/** What stands in for `openapi-fetch` asks and tells the same. */
import byLibrary from 'openapi-fetch'
import { expect, test } from 'vitest'
import byPath from './askedByPath'

function picture(): FormData {
  const form = new FormData()
  form.append('inputs', '{"tile": {"turn": 90}}')
  form.append('tile', new Blob(['not quite a picture'], { type: 'image/png' }), 'tile.png')
  return form
}

const CALLS: [method: 'GET' | 'POST', path: string, options: object][] = [
  ['GET', '/api/v1/demos/{slug}/page', { params: { path: { slug: 'will-it-crack' } } }],
  ['GET', '/api/v1/demos/{slug}/among', { params: { path: { slug: 'größe & so/?' }, query: { field: 'wall mm', of: 'cracks & warps', draft: undefined } } }],
  ['POST', '/api/v1/demos/{slug}/predictions', { params: { path: { slug: 'a' }, query: { with: 'curves,similar' } }, body: { inputs: { wall: 7, clay: null } } }],
  ['POST', '/api/v1/demos/{slug}/predictions', { params: { path: { slug: 'a' } }, body: picture(), bodySerializer: () => picture() }],
]
const ANSWERS: [status: number, body: string | null][] = [
  [200, '{"answer": [1, null, "釉薬"]}'],
  [204, null],
  [404, '{"detail": "No such demo."}'],
  [502, '<h1>Bad gateway</h1>'],
]

/** A form is read as one: what parts its parts is drawn by lot. */
async function bodyOf(request: Request): Promise<unknown> {
  if (!request.headers.get('Content-Type')?.startsWith('multipart/form-data; boundary=')) return [request.headers.get('Content-Type'), await request.text()]
  return Promise.all([...(await request.formData())].map(async ([name, value]) => [name, typeof value === 'string' ? value : [value.name, await value.text()]]))
}

async function said(create: typeof byLibrary, [method, path, options]: (typeof CALLS)[number], [status, body]: (typeof ANSWERS)[number]) {
  const asked: unknown[] = []
  const client = create<Record<string, never>>({
    baseUrl: 'http://127.0.0.1/',
    fetch: async (request: Request) => {
      asked.push(request.method, new URL(request.url).pathname, new URL(request.url).search, await bodyOf(request))
      return new Response(body, { status, headers: { 'Content-Type': 'application/json' } })
    },
  }) as unknown as Record<string, (path: string, options: object) => Promise<{ data?: unknown; error?: unknown }>>
  const { data, error } = await client[method](path, options)
  return { asked, data, error }
}

for (const call of CALLS) {
  test.each(ANSWERS)(`${call[0]} ${call[1]}, answered %i`, async (...answer) => {
    expect(await said(byPath as unknown as typeof byLibrary, call, answer)).toEqual(await said(byLibrary, call, answer))
  })
}
