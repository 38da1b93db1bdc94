/** Only a table yet: choose one, or the sample, to make a model of. */
import { useRef, useState } from 'react'
import { Link, useLocation } from 'wouter'
import { FilesInput } from '../shelf/FilesInput'
import { Problem } from '../bench/Problem'
import { sampleTable, sendStarter } from './queries'

type State = { status: 'idle' } | { status: 'sending'; sent: number } | { status: 'failed'; error: unknown }

export function StartPage() {
  const [, navigate] = useLocation()
  const [state, setState] = useState<State>({ status: 'idle' })
  const stop = useRef<AbortController>(undefined)
  const send = async (table: File | Promise<File>, isSample = false) => {
    setState({ status: 'sending', sent: 0 })
    stop.current = new AbortController()
    try {
      const job = await sendStarter(await table, ({ sent }) => setState({ status: 'sending', sent }), stop.current.signal)
      navigate(`/start/${job.id}${isSample ? '?tour=1' : ''}`)
    } catch (error) {
      const isGivenUp = error instanceof DOMException && error.name === 'AbortError'
      setState(isGivenUp ? { status: 'idle' } : { status: 'failed', error })
    }
  }
  return (
    <main
      className="mx-auto w-full max-w-3xl px-6 py-8"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        const [file] = event.dataTransfer.files
        if (file) void send(file)
      }}
    >
      <h1 className="text-[1.6em] font-bold">Start from a table</h1>
      <p className="mt-1 max-w-[65ch] text-soft">
        For when there is a question and data, but no model yet. A row is a case, and one column says what happened. You see what lies in wait in the table, then which models do better than guessing on rows they have not seen; the plainest good one becomes a page, with the script that makes it again.
      </p>
      <div className="card-line mt-6 pt-5">
        <FilesInput label="A table: CSV, Excel (.xlsx) or Parquet. Choose it here, or drop it anywhere on this page" accept=".csv,.tsv,.txt,.xlsx,.parquet,text/csv" onFiles={([file]) => file && void send(file)} />
        <p className="mt-3 text-soft">
          Or{' '}
          <button type="button" className="button-quiet" disabled={state.status === 'sending'} onClick={() => void send(sampleTable(), true)}>
            try it with a made-up firing log
          </button>{' '}
          in which a leak, names, gaps, a date and groups are hidden.
        </p>
        <p role="status" className="mt-4">
          {state.status === 'sending' && (state.sent < 1 ? `Sending: ${Math.round(state.sent * 100)} %` : 'Looking at its columns…')}
        </p>
        {state.status === 'sending' && (
          <button type="button" className="button-quiet" onClick={() => stop.current?.abort()}>
            Cancel
          </button>
        )}
        {state.status === 'failed' && <Problem error={state.error} />}
      </div>
      <p className="card-line mt-6 pt-4">
        <Link href="/" className="button-quiet">
          Back to the shelf
        </Link>
      </p>
    </main>
  )
}
