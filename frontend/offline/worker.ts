/**
 * Answers for one page that its visitor keeps on this device. While the server can be reached it is asked, and what it says
 * is kept; while it cannot, what was kept last stands for it. Nothing that a visitor enters passes through here.
 */
const scope = self as unknown as ServiceWorkerGlobalScope
/** What all pages are made of; put in when it is built. */
const FILES = JSON.parse('%files%') as string[]

/** What runs models that look at pictures: only pages of such keep it. */
const ENGINE = /^\/assets\/onnxruntime-[^/]+\.wasm\.gz$/

const slug = decodeURIComponent(/\/d\/([^/]+)\/offline\.js$/.exec(scope.location.pathname)?.[1] ?? '')
const page = `/d/${slug}`
const own = `/api/v1/demos/${slug}/`
const cacheName = `plain-window:${slug}`
/** Whoever is told this may not open the page any more. */
const SHUT = new Set([401, 403, 404, 410])
/** What matters overall is worked out while nobody asks; so long it is waited for when a page is kept. */
const COUNTING_MS = 30_000
const LOOK_MS = 500
/** A server that takes longer is taken to be out of reach, where something is kept. */
const REACH_MS = 6000

scope.addEventListener('install', (event) => {
  void scope.skipWaiting()
  event.waitUntil(caches.open(cacheName).then((cache) => cache.addAll(FILES)))
})

scope.addEventListener('activate', (event) => event.waitUntil(Promise.all([scope.clients.claim(), forgetOldFiles()])))

scope.addEventListener('message', (event) => {
  const { keep } = event.data as { keep?: string[] }
  const answer = event.ports[0]
  if (keep && answer) event.waitUntil(keepAll(keep, answer))
})

scope.addEventListener('fetch', (event) => {
  const { request } = event
  const { origin, pathname, searchParams } = new URL(request.url)
  if (request.method !== 'GET' || origin !== scope.location.origin || searchParams.has('draft')) return
  if (FILES.includes(pathname) || ENGINE.test(pathname)) event.respondWith(keptFirst(request))
  else if (pathname === page || pathname === `${page}/manifest.webmanifest` || pathname.startsWith(own)) event.respondWith(serverFirst(request))
})

/** Fetch what the page needs, one after the other, and tell how far it is. */
async function keepAll(addresses: string[], answer: MessagePort): Promise<void> {
  try {
    for (const [at, address] of addresses.entries()) {
      const response = await wholeOf(address)
      if (response) await keepInstead(new URL(address, scope.location.origin).href, response)
      answer.postMessage({ share: (at + 1) / addresses.length })
    }
    // Only now: a tab that was closed on the way has kept nothing whole.
    await caches.open(cacheName).then((cache) => cache.put(`${page}/kept`, new Response('')))
    answer.postMessage({ isKept: true })
  } catch (error) {
    const isFull = error instanceof DOMException && error.name === 'QuotaExceededError'
    answer.postMessage({ isKept: false, why: isFull ? 'This device has too little room for it.' : (error as Error).message })
  }
}

/** What stands at an address, once it is whole; null for what does not come to be whole in time. */
async function wholeOf(address: string): Promise<Response | null> {
  const until = Date.now() + COUNTING_MS
  for (;;) {
    const response = await fetch(address, { cache: 'no-cache' })
    if (!response.ok) throw new Error(`The server says ${response.status} of a part of the page.`)
    if (await isWhole(address, response)) return response
    if (Date.now() > until) return null
    await new Promise((go) => setTimeout(go, LOOK_MS))
  }
}

/** Of what matters overall a part would stand there for good, as if it were still being counted. */
async function isWhole(address: string, response: Response): Promise<boolean> {
  if (!new URL(address, scope.location.origin).pathname.endsWith('/overall')) return true
  return ((await response.clone().json()) as { share_done: number }).share_done === 1
}

async function keptFirst(request: Request): Promise<Response> {
  return (await caches.match(request, { cacheName, ignoreVary: true })) ?? fetch(request)
}

async function serverFirst(request: Request): Promise<Response> {
  // A page's address carries the case behind it, or none: it is one page.
  const key = new URL(request.url).pathname === page ? page : request.url
  const kept = await caches.match(key, { cacheName, ignoreVary: true })
  const late = kept && new Promise<Response>((settle) => setTimeout(() => settle(kept), REACH_MS))
  const asked = fetch(request).then((response) => noted(key, response, kept))
  if (!kept || !late) return asked
  return Promise.race([asked.catch(() => kept), late])
}

/** What the server says is kept; who may not open the page any more keeps nothing of it. */
async function noted(key: string, response: Response, kept: Response | undefined): Promise<Response> {
  if (response.ok && (key !== page || !response.redirected)) {
    const copy = response.clone()
    if (await isWhole(key, response)) await keepInstead(key, copy).catch(() => undefined)
    return response
  }
  if (SHUT.has(response.status) && (key === page || key.startsWith(`${scope.location.origin}${own}page`))) {
    await caches.delete(cacheName)
    await scope.registration.unregister()
    return response
  }
  return response.status >= 500 && kept ? kept : response
}

/** Keep it under its address, and let go of what was there for another mark: a model is large. */
async function keepInstead(key: string, response: Response): Promise<void> {
  const cache = await caches.open(cacheName)
  const { pathname, href } = new URL(key, scope.location.origin)
  await cache.put(key, response)
  const isOlder = (other: string) => (ENGINE.test(pathname) ? ENGINE.test(other) : pathname.startsWith(`${own}browser/`) && other === pathname)
  for (const request of await cache.keys()) if (request.url !== href && isOlder(new URL(request.url).pathname)) await cache.delete(request)
}

/** Files of a version of the pages that has been built anew since. */
async function forgetOldFiles(): Promise<void> {
  const cache = await caches.open(cacheName)
  for (const request of await cache.keys()) {
    const { pathname } = new URL(request.url)
    if (pathname.startsWith('/assets/') && !FILES.includes(pathname) && !ENGINE.test(pathname)) await cache.delete(request)
  }
}
