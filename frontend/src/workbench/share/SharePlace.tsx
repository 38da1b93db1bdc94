/** Share: the page's words, publishing, and who may open it. */
import { useState } from 'react'
import { Link } from 'wouter'
import type { DemoState } from '../../api/client'
import { CallsSheet } from './CallsSheet'
import { LogSheet } from './LogSheet'
import { Problem } from '../bench/Problem'
import { usePublish } from '../bench/queries'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { Access } from './AccessSheet'

export function SharePlace({ draft }: { draft: Draft }) {
  const { demo } = draft
  return (
    <section aria-labelledby="share-heading">
      <h2 id="share-heading" className="text-[1.25em] font-bold">
        Share
      </h2>
      <Publish demo={demo} />
      <Access demo={demo} />
      <Words draft={draft} />
      <CallsSheet demo={demo} />
      <LogSheet demo={demo} />
    </section>
  )
}

/** Publishing; what was concluded and never confirmed is asked about first. */
function Publish({ demo }: { demo: DemoState }) {
  const publish = usePublish(demo.slug)
  const [reason, setReason] = useState('')
  const asks = demo.questions.length > 0
  const despite = Object.fromEntries(demo.questions.map((question) => [question.name, reason.trim()]))
  const state = !demo.release
    ? 'Not published yet. Visitors see nothing until you publish.'
    : demo.draft_differs
      ? `Visitors see version ${demo.release.number}. The draft has changes they do not see yet.`
      : `Visitors see version ${demo.release.number}, which is this draft.`
  return (
    <div className="mt-3 flex flex-wrap items-center gap-4">
      <button
        type="button"
        className="button-primary"
        disabled={publish.isPending || !demo.draft_differs || (asks && !reason.trim())}
        onClick={() => publish.mutate(asks ? despite : {})}
      >
        {demo.draft_differs ? `Publish version ${(demo.release?.number ?? 0) + 1}` : 'Published'}
      </button>
      <p role="status" className="flex-1 text-soft">
        {state}
      </p>
      {asks && demo.draft_differs && (
        <div className="w-full border-l-3 border-caution pl-4">
          {demo.questions.map((question) => (
            <p key={question.name} className="text-caution">
              <span aria-hidden="true">! </span>
              {question.text}
            </p>
          ))}
          <p className="mt-1">
            <Link className="button-quiet" href={`/demos/${demo.slug}/model`}>
              Confirm it under Model
            </Link>
            , or say why the page is to be published all the same:
          </p>
          <input className="input-line w-full" aria-label="Why it is published all the same" value={reason} maxLength={2000} onChange={(event) => setReason(event.target.value)} />
        </div>
      )}
      <Problem error={publish.error} />
    </div>
  )
}

function Words({ draft }: { draft: Draft }) {
  const { demo, save } = draft
  return (
    <div className="card-line mt-5 space-y-3 pt-4">
      <h3 className="font-bold">What the page says</h3>
      <SavedInput label="Title" value={demo.title} onSave={(title) => save({ title })} />
      <SavedInput label={`Address: ${location.origin}/d/…`} value={demo.slug} onSave={(slug) => save({ slug })} />
      <SavedInput label="Purpose, in one sentence" value={demo.purpose ?? ''} onSave={(purpose) => save({ purpose })} />
      <SavedInput label="What it is not for" value={demo.not_for ?? ''} onSave={(not_for) => save({ not_for })} />
      <SavedInput
        label="How far to trust it (Markdown)"
        value={demo.description ?? ''}
        isMultiline
        onSave={(description) => save({ description })}
      />
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-1 size-4 accent-(--glass)"
          checked={demo.record_inputs}
          onChange={(event) => void save({ record_inputs: event.target.checked })}
        />
        <span>
          Keep what visitors enter <span className="text-soft">(the page then says so; you read it below, under What was asked)</span>
        </span>
      </label>
    </div>
  )
}
