/** A film that this browser cannot play, made again as one that it can. */
import { useEffect, useState } from 'react'
import { ApiError, toApiError, type JobView } from '../../api/client'

export interface Playable {
  /** Where the player has the film from. */
  address: string
  isUnplayable: boolean
  /** Called by the player. */
  onUnplayable: () => void
  /** Null while there is nothing that could be made, or no need. */
  make: (() => void) | null
  /** What is said of the making. */
  said: string
}

export function usePlayable(original: string, job: JobView | null): Playable {
  const [broken, setBroken] = useState('')
  const [made, setMade] = useState<{ of: string; address: string } | null>(null)
  const [said, setSaid] = useState('')
  // What a browser holds of a film is let go of with it.
  useEffect(() => () => void (made && URL.revokeObjectURL(made.address)), [made])
  const address = made?.of === original ? made.address : original
  const isUnplayable = broken === address && address !== ''
  const make = async (id: string) => {
    setSaid('The film is being made…')
    try {
      // Without boxes: those that are chosen are shown over it.
      const response = await fetch(`/api/v1/jobs/${id}/result?format=film&only=`)
      if (!response.ok) throw toApiError(await response.json().catch(() => null), response.status, response.headers.get('Retry-After'))
      setMade({ of: original, address: URL.createObjectURL(await response.blob()) })
      setSaid('')
    } catch (error) {
      setSaid(error instanceof ApiError ? error.message : 'It could not be made. Try again.')
    }
  }
  const canMake = isUnplayable && made?.of !== original && job?.result?.formats?.includes('film')
  return { address, isUnplayable, onUnplayable: () => setBroken(address), make: canMake && job ? () => void make(job.id) : null, said }
}
