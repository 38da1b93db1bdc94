/** Whether something has been old for so long that the page must not show it as current. */
import { useEffect, useState } from 'react'

/** A third of a second is a pause that people notice. */
const LATE_MS = 300

/** True once `isOld` has lasted; `key` is what is shown, which starts the time anew when it changes. */
export function useLate(isOld: boolean, key: unknown): boolean {
  const [late, setLate] = useState<{ key: unknown } | null>(null)
  // Time is outside React.
  useEffect(() => {
    if (!isOld) return
    const timer = setTimeout(() => setLate({ key }), LATE_MS)
    return () => clearTimeout(timer)
  }, [isOld, key])
  return isOld && late !== null && late.key === key
}
