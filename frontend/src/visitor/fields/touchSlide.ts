/** A slider under a finger: a swipe that scrolls the page leaves its value alone. */
import { useRef, type ChangeEvent, type PointerEvent } from 'react'

/** A finger that moved this far across means the slider, in pixels. */
const MEANT_PX = 6

/**
 * What a range input needs: `onValue` is called as it moves, but of a finger only once it is sure that the slider is meant.
 *
 * Browsers set the value where a finger comes down, before anybody knows whether it will slide or scroll. That value waits
 * until the finger moves across or is lifted; where the browser takes the finger for scrolling it is dropped.
 */
export function useTouchSlide(onValue: (value: number) => void) {
  const touch = useRef<{ x: number; value: number | null } | null>(null)
  return {
    onPointerDown: (event: PointerEvent<HTMLInputElement>) => {
      touch.current = event.pointerType === 'touch' ? { x: event.clientX, value: null } : null
    },
    onPointerMove: (event: PointerEvent<HTMLInputElement>) => {
      if (!touch.current || Math.abs(event.clientX - touch.current.x) < MEANT_PX) return
      const { value } = touch.current
      touch.current = null
      if (value !== null) onValue(value)
    },
    onPointerUp: () => {
      const value = touch.current?.value ?? null
      touch.current = null
      if (value !== null) onValue(value)
    },
    onPointerCancel: () => {
      touch.current = null
    },
    onChange: (event: ChangeEvent<HTMLInputElement>) => {
      const value = Number(event.target.value)
      if (touch.current) touch.current.value = value
      else onValue(value)
    },
  }
}
