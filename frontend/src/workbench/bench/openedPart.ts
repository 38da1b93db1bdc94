/** A part of the visitor's page that its author clicked on, and the settings it is made by. */
import { createContext, useEffect, useEffectEvent, useState, type RefObject } from 'react'

/** What has settings: a field by its name; or what an element of the page says it is set by. */
export interface OpenedPart {
  kind: 'field' | 'words' | 'answer' | 'parts' | 'tables' | 'films'
  /** Of a field. */
  name: string
  /** Counts up, so that the same part can be opened once more. */
  at: number
}

export const PLACE_OF = { field: 'inputs', words: 'share', answer: 'answer', parts: 'answer', tables: 'share', films: 'share' } as const

/** Null before any was clicked on. */
export const Opened = createContext<OpenedPart | null>(null)

const SETTABLE = '[data-field], [data-setting]'
const CONTROLS = 'a, button, input, label, select, summary, textarea, [role=slider], canvas'
const HINT = `:is(${SETTABLE}):hover:not(:has(:is(${SETTABLE}):hover)) { outline: 1px dashed var(--edge); outline-offset: 3px }`

/**
 * What was clicked on in the frame. A control does its own work: it opens its settings only where its place stands open
 * anyhow, so that whoever tries the page is not led away.
 */
export function useOpenedPart(frame: RefObject<HTMLIFrameElement | null>, place: string, onOpen: (place: string) => void): OpenedPart | null {
  const [opened, setOpened] = useState<OpenedPart | null>(null)
  const click = useEffectEvent((event: MouseEvent) => {
    // Elements of the frame are of another window's classes.
    const target = event.target as Element
    const part = target.closest?.<HTMLElement>(SETTABLE)
    if (!part) return
    const kind = (part.dataset.field === undefined ? part.dataset.setting : 'field') as OpenedPart['kind']
    if (target.closest(CONTROLS) && PLACE_OF[kind] !== place) return
    setOpened((before) => ({ kind, name: part.dataset.field ?? '', at: (before?.at ?? 0) + 1 }))
    onOpen(PLACE_OF[kind])
  })
  // Another document each time the frame loads.
  useEffect(() => {
    const element = frame.current
    let view: Window | null = null
    const listen = () => {
      // A browser's own page, where ours could not be reached, has no document for us.
      view = element?.contentDocument?.defaultView ?? null
      view?.addEventListener('click', click)
      if (view) hint(view)
    }
    listen()
    element?.addEventListener('load', listen)
    return () => {
      element?.removeEventListener('load', listen)
      view?.removeEventListener('click', click)
    }
  }, [frame])
  return opened
}

/** What can be clicked on is outlined under the pointer, on this page in this frame only. */
function hint(view: Window): void {
  const { CSSStyleSheet } = view as Window & typeof globalThis
  const sheet = new CSSStyleSheet()
  sheet.replaceSync(HINT)
  view.document.adoptedStyleSheets = [sheet]
}
