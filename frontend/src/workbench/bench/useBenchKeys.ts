/** The bench's keys, where nothing is being typed. */
import { useEffect, useEffectEvent, type RefObject } from 'react'

interface BenchKeys {
  /** To a place by its number, from 1. */
  onPlace: (number: number) => void
  onMap: () => void
}

const MOST_PLACES = 5

export function useBenchKeys(frame: RefObject<HTMLIFrameElement | null>, { onPlace, onMap }: BenchKeys) {
  const press = useEffectEvent((event: KeyboardEvent) => {
    const into = event.target instanceof HTMLElement ? event.target : null
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault()
      frame.current?.contentDocument?.querySelector('form')?.requestSubmit()
      return
    }
    if (event.ctrlKey || event.metaKey || event.altKey || into?.closest('input:not([type=checkbox], [type=range]), textarea, select, [contenteditable], dialog, [role=dialog]')) return
    const number = Number(event.key)
    if (event.key === '?') onMap()
    else if (event.key.toLowerCase() === 'k') frame.current?.contentWindow?.dispatchEvent(new KeyboardEvent('keydown', { key: 'k' }))
    else if (Number.isInteger(number) && number >= 1 && number <= MOST_PLACES) onPlace(number)
    else return
    event.preventDefault()
  })
  useEffect(() => {
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [])
}
