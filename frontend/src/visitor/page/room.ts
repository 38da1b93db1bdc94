/** The room that the page had before anything was asked: an answer that is on its way takes none of it back. */
import { useEffect, type RefObject } from 'react'

/** Write down as `--room` how high it is while it invites; what stands under it stays there when the answer comes. */
export function useRoomAsBefore(main: RefObject<HTMLElement | null>, isInvited: boolean): void {
  // How high something is drawn is outside React.
  useEffect(() => {
    const element = main.current
    if (!element) return
    if (!isInvited) {
      const forget = () => element.style.removeProperty('--room')
      window.addEventListener('resize', forget)
      return () => window.removeEventListener('resize', forget)
    }
    const observer = new ResizeObserver(() => element.style.setProperty('--room', `${element.offsetHeight}px`))
    observer.observe(element)
    return () => observer.disconnect()
  }, [main, isInvited])
}
