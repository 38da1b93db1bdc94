/** The time, for what is told as "4 minutes ago": it goes on while a page stands open. */
import { useEffect, useState } from 'react'

const STEP_MS = 30_000

export function useNow(): Date {
  const [now, setNow] = useState(() => new Date())
  // The clock is outside React.
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date()), STEP_MS)
    return () => clearInterval(timer)
  }, [])
  return now
}
