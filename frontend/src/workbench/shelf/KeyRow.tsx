/** One key for programs, and taking it back. */
import { useState } from 'react'
import type { Key } from '../../api/client'
import { agoText } from '../../domain/format'
import { useNow } from '../../parts/useNow'

export function KeyRow({ value, onRevoke }: { value: Key; onRevoke: () => void }) {
  const [isAsking, setIsAsking] = useState(false)
  const now = useNow()
  const made = new Date(value.created).toLocaleDateString()
  return (
    <li className="flex items-baseline gap-5 border-b border-line py-2.5">
      <span className="flex-1 font-bold break-words">{value.name}</span>
      <span className="text-soft">made {made}</span>
      <span className="text-soft">{value.used ? `used ${agoText(value.used, now)}` : 'never used'}</span>
      {isAsking ? (
        <button type="button" className="text-alert underline underline-offset-3" onClick={onRevoke} onBlur={() => setIsAsking(false)}>
          Programs with it stop working. Revoke?
        </button>
      ) : (
        <button type="button" className="button-quiet" aria-label={`Revoke ${value.name}`} onClick={() => setIsAsking(true)}>
          Revoke
        </button>
      )}
    </li>
  )
}
