/** A page kept on its visitor's device: it opens without a network then, with what it answers by. */
import type { Page } from '../../api/client'
import { ENGINE, takesEngine } from './fetching'

/** Whether this browser can keep this page, and whether it does. */
export async function keptState(slug: string): Promise<'cannot' | 'not kept' | 'kept'> {
  if (!('serviceWorker' in navigator) || window.parent !== window) return 'cannot'
  try {
    const isWhole = await caches.match(`/d/${slug}/kept`, { cacheName: cacheOf(slug) })
    return isWhole && (await registrationOf(slug)) ? 'kept' : 'not kept'
  } catch {
    // Storage is switched off.
    return 'cannot'
  }
}

/** Keep it, or what is newer of it. Rejects with a sentence. */
export async function keep(page: Page, onProgress: (share: number) => void): Promise<void> {
  const { slug } = page
  const registration = await navigator.serviceWorker.register(`/d/${slug}/offline.js`, { scope: `/d/${slug}` })
  const worker = registration.active ?? registration.waiting ?? registration.installing
  if (!worker) throw new Error('The browser does not keep it.')
  if (worker.state !== 'activated') await activated(worker)
  await new Promise<void>((settle, fail) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = ({ data }: MessageEvent<{ share?: number; isKept?: boolean; why?: string }>) => {
      if (data.share !== undefined) onProgress(data.share)
      else if (data.isKept) settle()
      else fail(new Error(data.why))
    }
    worker.postMessage({ keep: addressesOf(page) }, [port2])
  })
}

/** Forget all that was kept of it. */
export async function forget(slug: string): Promise<void> {
  await (await registrationOf(slug))?.unregister()
  await caches.delete(cacheOf(slug))
}

/** As `frontend/offline/worker.ts` calls it. */
function cacheOf(slug: string): string {
  return `plain-window:${slug}`
}

async function registrationOf(slug: string): Promise<ServiceWorkerRegistration | undefined> {
  const all = await navigator.serviceWorker.getRegistrations()
  return all.find(({ scope }) => new URL(scope).pathname === `/d/${slug}`)
}

function activated(worker: ServiceWorker): Promise<void> {
  return new Promise((settle, fail) => {
    worker.addEventListener('statechange', () => {
      if (worker.state === 'activated') settle()
      if (worker.state === 'redundant') fail(new Error('The page’s parts could not be fetched. Check the connection.'))
    })
  })
}

/** All that the page asks its server for and that has nothing to do with a case. */
function addressesOf(page: Page): string[] {
  const { slug, parts, logo, answer } = page
  const own = `/api/v1/demos/${slug}`
  const names = answer.kind === 'class' ? answer.classes : answer.kind === 'labels' ? answer.labels : answer.kind === 'numbers' ? answer.values : answer.kind === 'number' ? [{ name: answer.name ?? '' }] : []
  return [
    `/d/${slug}`,
    `/d/${slug}/manifest.webmanifest`,
    `${own}/page`,
    ...['content', 'model'].map((what) => `${own}/browser/${what}?${new URLSearchParams({ mark: page.browser?.mark ?? '' })}`),
    ...(takesEngine(page) ? [ENGINE] : []),
    ...(page.samples ?? []).flatMap(({ inputs }) => Object.values(inputs).flatMap((value) => (typeof value === 'object' && value !== null && 'sample' in value ? [`${own}/samples/${String(value.sample)}`] : []))),
    ...(logo ? [`${own}/${logo.path}`] : []),
    ...(parts.report ? [`${own}/report`] : []),
    ...(parts.overall ? names.map(({ name = '' }) => `${own}/overall?${new URLSearchParams({ of: name })}`) : []),
  ]
}
