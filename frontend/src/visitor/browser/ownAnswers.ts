/**
 * A page that answers in its visitor's browser: what it answers by is fetched, and until its visitor has the server answer
 * no case leaves the page.
 */
import type { Page, Problem } from '../../api/client'
import { answerBy, atServer, sayAnswering } from '../../api/door'
import { weightText } from '../../domain/format'
import { proveBy } from '../page/proof'
import { fetchedParts, type Progress } from './fetching'
import type { Opened } from './sent'

export type Whereabouts =
  /** Fetching is much for this line: its visitor says whether. */
  | { is: 'asks' }
  | { is: 'fetching'; progress: Progress }
  | { is: 'open' }
  | { is: 'failed'; why: string }
  | { is: 'server' }

/** From here on nobody fetches for somebody who has not said so; where a visitor's browser asks to save data, from less. */
const MUCH_BYTES = 20 << 20
const MUCH_WHEN_SAVING = 1 << 20
const NOT_FETCHED = 'What it answers by could not be fetched. Check the connection.'
const NOT_OPENED = 'This browser lacks something that it takes, or has too little memory for it.'
/** How long a case waits for what it is answered by before its visitor is told what it waits for. */
const PATIENCE_MS = 3000

class OwnAnswers {
  #page: Page | null = null
  #shown: Page | null = null
  #isDraft = false
  #now: Whereabouts = { is: 'open' }
  #listeners = new Set<() => void>()
  #close = (): void => undefined
  #settle: { open: (opened: Opened) => void; fail: (error: Error) => void } | null = null

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }

  readonly read = (): Whereabouts => this.#now

  /** The page as it is answered: here, unless its visitor has the server answer. Begins to fetch what that takes. */
  take(page: Page, isDraft: boolean): Page {
    const { browser } = page
    if (!browser) return page
    const isSame = this.#page?.browser?.mark === browser.mark
    this.#page = page
    this.#isDraft = isDraft
    if (readChoice(page.slug) === 'server') {
      this.#leave()
      return page
    }
    linkManifest(page.slug)
    if (!isSame || this.#now.is === 'server') this.#begin()
    const own = { made_at: null, mark: browser.mark, left_out: browser.left_out }
    this.#shown = { ...page, parts: browser.parts, in_browser: own }
    return this.#shown
  }

  /**
   * What is shown when the page's author has the server answer by now. Whoever was promised that nothing leaves their device
   * keeps that until they load the page again; the author themselves sees the change at once.
   */
  afterChange(page: Page): Page {
    if (this.#shown && !this.#isDraft && this.#now.is !== 'server') return this.#shown
    this.#leave()
    return page
  }

  /** Have the server answer from now on, by its visitor's word; the page is to be looked at anew. */
  letServerAnswer(): void {
    if (!this.#page) return
    writeChoice(this.#page.slug, 'server')
    this.#leave()
  }

  answerHere(): void {
    if (!this.#page) return
    writeChoice(this.#page.slug, null)
    this.#begin()
  }

  /** Fetch what it answers by, after all or once more. */
  fetch(): void {
    void this.#fetch()
  }

  #begin(): void {
    this.#hold()
    const saves = (navigator as { connection?: { saveData?: boolean } }).connection?.saveData === true
    if ((this.#page?.browser?.bytes ?? 0) > (saves ? MUCH_WHEN_SAVING : MUCH_BYTES)) this.#say({ is: 'asks' })
    else void this.#fetch()
  }

  /** From here on cases wait for what answers here. */
  #hold(): void {
    this.#settle?.fail(new Error('begun anew'))
    this.#close()
    const opened = new Promise<Opened>((open, fail) => {
      this.#settle = { open, fail }
    })
    const there = opened.catch(() => null)
    const paths = ['predictions', 'where'].map((what) => `/api/v1/demos/${this.#page?.slug}/${what}`)
    answerBy(async (request) => {
      const { pathname } = new URL(request.url)
      if (request.method === 'GET' || pathname.endsWith('/passcode')) return atServer(request)
      // Whatever else would be sent is not: a case can be in it.
      if (!paths.includes(pathname)) return refused(NOT_SENT)
      const patience = this.#now.is === 'fetching' ? PATIENCE_MS : 0
      const own = await Promise.race([there, new Promise<null>((give) => setTimeout(() => give(null), patience))])
      return own?.door(request) ?? refused(notYet(this.#now))
    })
  }

  async #fetch(): Promise<void> {
    const page = this.#page
    if (this.#now.is === 'failed') this.#hold()
    const settle = this.#settle
    if (!page?.browser || !settle) return
    const isStale = () => this.#settle !== settle
    this.#say({ is: 'fetching', progress: { got: 0, total: page.browser.bytes, secondsLeft: null } })
    try {
      const parts = await fetchedParts(page, this.#isDraft, page.browser, (progress) => isStale() || this.#say({ is: 'fetching', progress }))
      const { openSent } = await import('answering-in-browser')
      const opened = await openSent(parts)
      if (isStale()) return opened.close()
      this.#close = opened.close
      settle.open(opened)
      proveBy(opened)
      this.#say({ is: 'open' })
      sayAnswering()
    } catch (error) {
      if (isStale()) return
      settle.fail(error as Error)
      proveBy(null)
      this.#say({ is: 'failed', why: whyOf(error as Error) })
    }
  }

  #leave(): void {
    this.#settle?.fail(new Error('the server answers'))
    this.#close()
    this.#settle = null
    proveBy(null)
    answerBy(atServer)
    this.#say({ is: 'server' })
  }

  #say(now: Whereabouts): void {
    this.#now = now
    this.#listeners.forEach((listener) => listener())
  }
}

/** What a phone is told that puts the page on its screen. */
function linkManifest(slug: string): void {
  if (document.querySelector('link[rel="manifest"]')) return
  const link = document.createElement('link')
  link.rel = 'manifest'
  link.crossOrigin = 'use-credentials'
  link.href = `/d/${slug}/manifest.webmanifest`
  document.head.append(link)
}

function whyOf({ name, message }: Error): string {
  if (name !== 'NotOpened') return NOT_FETCHED
  return message ? `What was fetched for it is damaged. ${message}` : NOT_OPENED
}

const NOT_SENT: Problem = { type: 'about:blank', title: 'Not sent', status: 409, detail: 'This page sends nothing. Let the server answer first, under the title.', errors: null, traceback: null }

/** What a case is told while nothing answers it; the page asks again by itself. */
function notYet(now: Whereabouts): Problem {
  const detail =
    now.is === 'fetching'
      ? `The model is on its way: ${weightText(now.progress.got)} of ${weightText(now.progress.total)} are here.`
      : now.is === 'asks'
        ? 'The model has not been fetched yet. Under the title the page asks whether it may be.'
        : 'The model is not here. Under the title the page says why.'
  return { type: 'about:blank', title: 'No answer yet', status: 503, detail, errors: null, traceback: null }
}

function refused(problem: Problem): Response {
  return new Response(JSON.stringify(problem), { status: problem.status, headers: { 'Content-Type': 'application/problem+json' } })
}

function readChoice(slug: string): string | null {
  try {
    return sessionStorage.getItem(keyOf(slug))
  } catch {
    return chosen
  }
}

/** Where a browser keeps nothing, for as long as the page stands. */
let chosen: string | null = null

function writeChoice(slug: string, choice: 'server' | null): void {
  chosen = choice
  try {
    if (choice === null) sessionStorage.removeItem(keyOf(slug))
    else sessionStorage.setItem(keyOf(slug), choice)
  } catch {
    // Then it holds for as long as the page stands.
  }
}

function keyOf(slug: string): string {
  return `plain-window:${slug}:answers`
}

export const ownAnswers = new OwnAnswers()
