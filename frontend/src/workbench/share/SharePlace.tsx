/** Share: the page's words, publishing, and who may open it. */
import { CallsSheet } from './CallsSheet'
import { LogSheet } from './LogSheet'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { Access } from './AccessSheet'
import { Publish } from './Publish'
import { ReleasesSheet } from './ReleasesSheet'
import { TakeAlong } from './TakeAlong'

export function SharePlace({ draft }: { draft: Draft }) {
  const { demo } = draft
  return (
    <section aria-labelledby="share-heading">
      <h2 id="share-heading" className="text-[1.25em] font-bold">
        Share
      </h2>
      <Publish demo={demo} />
      <ReleasesSheet demo={demo} />
      <Access demo={demo} />
      <Words draft={draft} />
      <CallsSheet demo={demo} />
      <TakeAlong slug={demo.slug} />
      <LogSheet demo={demo} />
    </section>
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
