/** Share: the page's words, publishing, and who may open it. */
import { AnswersIn } from './AnswersIn'
import { CallsSheet } from './CallsSheet'
import { LogSheet } from './LogSheet'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { Access } from './AccessSheet'
import { DriftSheet } from './DriftSheet'
import { Embed } from './Embed'
import { FilmsSheet } from './FilmsSheet'
import { LinksSheet } from './LinksSheet'
import { LogoInput } from './LogoInput'
import { Publish } from './Publish'
import { ReleasesSheet } from './ReleasesSheet'
import { TablesSheet } from './TablesSheet'
import { TakeAlong } from './TakeAlong'
import { TakeAway } from './TakeAway'

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
      {demo.access.access === 'link' && <LinksSheet demo={demo} />}
      {demo.release && <Embed demo={demo} />}
      <Words draft={draft} />
      <AnswersIn draft={draft} />
      <TablesSheet draft={draft} />
      <FilmsSheet draft={draft} />
      <CallsSheet demo={demo} />
      <TakeAway demo={demo} />
      <TakeAlong slug={demo.slug} />
      <LogSheet demo={demo} />
      {demo.release && <DriftSheet demo={demo} />}
    </section>
  )
}

function Words({ draft }: { draft: Draft }) {
  const { demo, save } = draft
  return (
    <div data-settings="words" className="card-line mt-5 space-y-3 pt-4">
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
      <SavedInput label="Licence, or whom to ask" value={demo.licence ?? ''} onSave={(licence) => save({ licence })} />
      <LogoInput draft={draft} />
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
      {demo.record_inputs && (
        <SavedInput
          className="max-w-xs"
          label="For how many days it is kept; then it is deleted"
          value={String(demo.record_days)}
          inputMode="decimal"
          onSave={(text) => save({ record_days: (text.trim() === '' ? text : Number(text)) as number })}
        />
      )}
    </div>
  )
}
