/** Publishing: with a note, and a reason for each check that fails. */
import { useState } from 'react'
import { Link } from 'wouter'
import { ApiError, type DemoState } from '../../api/client'
import { Problem } from '../bench/Problem'
import { usePublish } from '../bench/queries'
import { useReleases } from './queries'

interface Failing {
  name: string
  text: string
}

export function Publish({ demo }: { demo: DemoState }) {
  const publish = usePublish(demo.slug)
  const [note, setNote] = useState('')
  const [reasons, setReasons] = useState<Record<string, string>>({})
  const releases = useReleases(demo.slug, demo.release?.number ?? 0)
  // Visitors may see an older one than was published last.
  const last = releases.data?.releases[0]?.number ?? demo.release?.number ?? 0
  const failing = failingOf(demo, publish.error)
  const isReasoned = failing.every(({ name }) => reasons[name]?.trim())
  const state = !demo.release
    ? 'Not published yet. Visitors see nothing until you publish.'
    : demo.draft_differs
      ? `Visitors see version ${demo.release.number}. The draft has changes they do not see yet.`
      : `Visitors see version ${demo.release.number}, which is this draft.`
  const send = () =>
    publish.mutate(
      { note: note.trim(), despite: Object.fromEntries(failing.map(({ name }) => [name, reasons[name]?.trim() ?? ''])) },
      { onSuccess: () => (setNote(''), setReasons({})) },
    )
  return (
    <div className="mt-3">
      <div className="flex flex-wrap items-center gap-4">
        <button type="button" className="button-primary" disabled={publish.isPending || !demo.draft_differs || !isReasoned} onClick={send}>
          {publish.isPending ? 'Checking and publishing…' : demo.draft_differs ? `Publish version ${last + 1}` : 'Published'}
        </button>
        <p role="status" className="flex-1 text-soft">
          {state}
        </p>
      </div>
      {demo.draft_differs && (
        <label className="mt-2 block">
          <span className="text-soft">What is new in it, for yourself</span>
          <input className="input-line w-full" value={note} maxLength={2000} onChange={(event) => setNote(event.target.value)} />
        </label>
      )}
      {demo.draft_differs && failing.length > 0 && (
        <ul className="mt-3 space-y-3 border-l-3 border-caution pl-4">
          {failing.map(({ name, text }) => (
            <li key={name}>
              <p className="text-caution">
                <span aria-hidden="true">! </span>
                {text}
              </p>
              <p className="mt-1">
                <Link className="button-quiet" href={`/demos/${demo.slug}/${demo.questions.some((question) => question.name === name) ? 'model' : 'checks'}`}>
                  {demo.questions.some((question) => question.name === name) ? 'Confirm it under Model' : 'See it under Checks'}
                </Link>
                , or say why the page is to be published all the same:
              </p>
              <input
                className="input-line w-full"
                aria-label={`Why it is published all the same: ${text}`}
                value={reasons[name] ?? ''}
                maxLength={2000}
                onChange={(event) => setReasons({ ...reasons, [name]: event.target.value })}
              />
            </li>
          ))}
        </ul>
      )}
      {!isRefusal(publish.error) && <Problem error={publish.error} />}
    </div>
  )
}

/** What stands in the way: as publishing said when it was tried, or what is known to be open before that. */
function failingOf(demo: DemoState, error: unknown): Failing[] {
  const open = demo.questions.map(({ name, text, way_on }) => ({ name: name as string, text: `${text} ${way_on}`.trim() }))
  if (!isRefusal(error)) return open
  const refused = (error.problem.errors ?? []).map(({ field, message }) => ({ name: field ?? '', text: message }))
  // What was confirmed or reasoned since is not asked about twice.
  return [...open, ...refused.filter(({ name }) => !open.some((one) => one.name === name))]
}

function isRefusal(error: unknown): error is ApiError {
  return error instanceof ApiError && error.problem.status === 409 && (error.problem.errors ?? []).length > 0
}
