/** Where the focus goes when what had it is gone: to what held it, never to the page's beginning. */
import { useEffect, type MouseEvent } from 'react'

/**
 * While the page is shown, a focus that goes down with its element lands on the nearest place around it that is still
 * there and can take it (`tabIndex={-1}`): after *Show the answer* the answer, after *Drop* the kept answers.
 */
export function useFocusKeeper(): void {
  // The document's focus is outside React.
  useEffect(() => {
    let chain: HTMLElement[] = []
    const remember = (event: FocusEvent) => {
      chain = []
      for (let at = event.target as HTMLElement | null; at; at = at.parentElement) chain.push(at)
    }
    // A press on bare paper lets go of the focus on purpose.
    const forget = (event: PointerEvent) => {
      if (event.target instanceof Element && !event.target.closest('a, button, input, select, textarea, summary, label, [tabindex]')) chain = []
    }
    const keep = () => {
      const first = chain[0]
      if (!first || first.isConnected || document.activeElement !== document.body) return
      const next = chain.slice(1).find((one) => one.isConnected && one.tabIndex === -1 && one.hasAttribute('tabindex'))
      chain = []
      next?.focus({ preventScroll: true })
    }
    const observer = new MutationObserver(keep)
    observer.observe(document.body, { childList: true, subtree: true })
    document.addEventListener('focusin', remember)
    document.addEventListener('pointerdown', forget)
    return () => {
      observer.disconnect()
      document.removeEventListener('focusin', remember)
      document.removeEventListener('pointerdown', forget)
    }
  }, [])
}

/** A link within the page that leaves the address alone: the case stands there. */
export function jump(event: MouseEvent<HTMLAnchorElement>): void {
  const target = document.querySelector<HTMLElement>(event.currentTarget.getAttribute('href') ?? '')
  if (!target) return
  event.preventDefault()
  target.scrollIntoView({ block: 'start' })
  target.focus({ preventScroll: true })
}
