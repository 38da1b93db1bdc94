/** Another model or table put beside the one there is, with progress, and given up at any time. */
import { useState } from 'react'
import type { Replaced } from '../../api/client'
import { compareParts, type Progress } from '../../api/environments'

const BUILDING = 'Building the libraries that it asks for…'

type State =
  | { status: 'idle' }
  /** `sent` from 0 to 1; then both are asked. */
  | { status: 'comparing'; sent: number; log?: string[]; stop: AbortController }
  | { status: 'found'; found: Replaced['differences'] }
  | { status: 'failed'; error: unknown }

export function useCompare(slug: string) {
  const [state, setState] = useState<State>({ status: 'idle' })
  const begin = (form: FormData) => {
    if (state.status === 'comparing') state.stop.abort()
    const stop = new AbortController()
    setState({ status: 'comparing', sent: 0, stop })
    const progress = ({ sent, log }: Progress) => setState((now) => (now.status === 'comparing' && now.stop === stop ? { ...now, sent, log } : now))
    const end = (next: State) => setState((now) => (now.status === 'comparing' && now.stop === stop ? next : now))
    compareParts(slug, form, progress, stop.signal).then(
      ({ differences }) => end({ status: 'found', found: differences }),
      (error: unknown) => end({ status: 'failed', error }),
    )
  }
  const giveUp = () => {
    if (state.status === 'comparing') state.stop.abort()
    setState({ status: 'idle' })
  }
  return {
    begin,
    giveUp,
    isPending: state.status === 'comparing',
    words: state.status !== 'comparing' ? '' : state.sent < 1 ? `Sending: ${Math.round(state.sent * 100)} %` : state.log ? BUILDING : 'Opening it beside the one there is, and asking both…',
    log: state.status === 'comparing' ? (state.log ?? null) : null,
    found: state.status === 'found' ? state.found : null,
    error: state.status === 'failed' ? state.error : null,
  }
}
