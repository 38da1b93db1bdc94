/** Asking the demo from a program: calls that work as they are pasted, and keys where one is needed. */
import { useContext } from 'react'
import type { DemoState } from '../../api/client'
import { ShownCase } from '../inputs/shownCase'
import { callsOf, needsKey } from './calls'
import { KeysSheet } from '../shelf/KeysPage'
import { Lines } from './Lines'

const LANGUAGES = [
  { name: 'curl', label: 'curl' },
  { name: 'python', label: 'Python' },
  { name: 'javascript', label: 'JavaScript' },
] as const

export function CallsSheet({ demo }: { demo: DemoState }) {
  const calls = callsOf(demo, location.origin, useContext(ShownCase))
  const hasPicture = demo.fields.some((field) => field.kind === 'picture')
  return (
    <details className="card-line mt-5 pt-4" data-testid="calls">
      <summary className="font-bold">Ask it from a program</summary>
      <p className="mt-1 text-soft">
        {needsKey(demo)
          ? 'Only you see this page from a program, so each call needs a key: export it as PLAINWINDOW_KEY first.'
          : 'The page is open to everyone, so no key is needed. Calls with a key are not limited in number.'}{' '}
        They ask about the case that the page on the right shows.{' '}
        {hasPicture && 'Put a picture beside it, by the name that the call has. '}
        All calls are described at{' '}
        <a className="button-quiet" href="/api/v1/openapi.json">
          /api/v1/openapi.json
        </a>
        .
      </p>
      {LANGUAGES.map(({ name, label }) => (
        <Lines key={name} label={label} text={calls[name]} />
      ))}
      {needsKey(demo) && <KeysSheet />}
    </details>
  )
}
