/** Questions by path, for a page that asks no server: of `openapi-fetch` what such a page needs, at a tenth of its size. */
import type { Door } from '../src/api/door'

interface Asked {
  params?: { path?: Record<string, string | number>; query?: Record<string, unknown> }
  body?: unknown
  /** What makes the request's body of it, where that is not JSON: pictures go as a form. */
  bodySerializer?: (body: unknown) => BodyInit
  signal?: AbortSignal
}

interface Told {
  data?: unknown
  error?: unknown
  response: Response
}

/** `openapi-fetch` is its default export. */
export default function createClient({ baseUrl, fetch: ask }: { baseUrl: string; fetch: Door }) {
  const by =
    (method: string) =>
    async (path: string, { params, body, bodySerializer, signal }: Asked = {}): Promise<Told> => {
      const sent = body === undefined ? {} : bodySerializer ? { body: bodySerializer(body) } : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }
      const response = await ask(new Request(baseUrl.replace(/\/$/, '') + addressOf(path, params), { method, signal, ...sent }))
      // What has no content, or none that can be read, says nothing.
      const text = await response.text()
      return response.ok ? { data: text ? JSON.parse(text) : undefined, response } : { error: read(text), response }
    }
  // Sessions and drafts are the server's: what minds those is not listened to.
  return { GET: by('GET'), POST: by('POST'), use: () => undefined }
}

function addressOf(path: string, { path: places = {}, query = {} }: Asked['params'] = {}): string {
  const asked = Object.entries(query).filter(([, value]) => value !== undefined && value !== null)
  const end = asked.map(([name, value]) => `${encodeURIComponent(name)}=${encodeURIComponent(String(value))}`).join('&')
  return path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(String(places[name]))) + (end && `?${end}`)
}

function read(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return text
  }
}
