/** Stop waiting for an answer: nothing that was entered is lost. It is there once somebody has waited a moment. */
import { useEffect, useState } from 'react'

const SHOWN_AFTER_MS = 800

export function Stop({ onStop }: { onStop: () => void }) {
  const [isShown, setShown] = useState(false)
  // Time is outside React: an answer that comes at once needs no button.
  useEffect(() => {
    const timer = setTimeout(() => setShown(true), SHOWN_AFTER_MS)
    return () => clearTimeout(timer)
  }, [])
  return (
    // Its room is there from the start: nothing moves when it comes.
    <button type="button" className={`button-plain mt-3 ${isShown ? '' : 'invisible'}`} onClick={onStop}>
      Stop
    </button>
  )
}
