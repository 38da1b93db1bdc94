/** Share: the page's words, publishing, and who may open it. */
import { Label, Radio, RadioGroup } from '@headlessui/react'
import { useState } from 'react'
import { Link } from 'wouter'
import type { AccessChange, DemoState } from '../api/client'
import { CallsSheet } from './CallsSheet'
import { LogSheet } from './LogSheet'
import { Problem } from './Problem'
import { useAccessChange, usePublish } from './queries'
import { MIN_PASSCODE, passcodeHint } from './passcode'
import { SavedInput } from './SavedInput'
import type { Draft } from './useDraft'

const ACCESS = [
  { value: 'private', label: 'Only me', help: 'Others are told there is nothing here.' },
  { value: 'link', label: 'Secret link', help: 'Whoever has the link can open it.' },
  { value: 'passcode', label: 'Passcode', help: 'Whoever knows the passcode can open it.' },
  { value: 'everyone', label: 'Everyone', help: 'Anyone who can reach this server.' },
] as const

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

function Access({ demo }: { demo: DemoState }) {
  const change = useAccessChange(demo.slug)
  const [isChoosingPasscode, setIsChoosingPasscode] = useState(false)
  const [passcode, setPasscode] = useState('')
  const shown = isChoosingPasscode ? 'passcode' : demo.access.access
  const choose = (access: AccessChange['access']) => {
    setIsChoosingPasscode(access === 'passcode')
    if (access !== 'passcode') change.mutate({ access, new_link: false })
  }
  return (
    <div className="card-line mt-5 pt-4">
      <RadioGroup value={shown} onChange={choose}>
        <Label className="font-bold">Who may open it</Label>
        <div className="mt-2 grid grid-cols-2 gap-1.5">
          {ACCESS.map(({ value, label, help }) => (
            <Radio
              key={value}
              value={value}
              className="border border-line px-3 py-1.5 hover:border-edge data-checked:border-glass data-checked:bg-glass-pale"
            >
              <span className="font-bold">{label}</span>
              <span className="block text-[0.92em] text-soft">{help}</span>
            </Radio>
          ))}
        </div>
      </RadioGroup>
      {isChoosingPasscode && (
        <form
          className="mt-3 flex items-center gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            change.mutate({ access: 'passcode', passcode, new_link: false }, { onSuccess: () => setIsChoosingPasscode(false) })
          }}
        >
          <label className="flex-1">
            <span className="block text-soft">Passcode, at least {MIN_PASSCODE} characters</span>
            <input
              className="input-line w-full"
              value={passcode}
              minLength={MIN_PASSCODE}
              required
              aria-describedby="passcode-hint"
              onChange={(event) => setPasscode(event.target.value)}
            />
            <span id="passcode-hint" role="status" className="mt-1 block min-h-[1.5em] text-[0.92em] text-soft">
              {passcodeHint(passcode)}
            </span>
          </label>
          <button type="submit" className="button-plain">
            Set passcode
          </button>
        </form>
      )}
      {change.error && <p className="mt-2 text-alert">{change.error.message}</p>}
      {demo.release ? <Address demo={demo} onNewLink={() => change.mutate({ access: 'link', new_link: true })} /> : null}
    </div>
  )
}

function Address({ demo, onNewLink }: { demo: DemoState; onNewLink: () => void }) {
  const path = demo.access.link ?? `/d/${demo.slug}`
  const address = `${location.origin}${path}`
  const [copied, setCopied] = useState('')
  const copy = () => {
    void navigator.clipboard?.writeText(address).then(() => setCopied(address))
  }
  return (
    <div className="mt-3">
      <p className="text-soft">{demo.access.link ? 'The secret link' : 'The address'}</p>
      <p className="flex flex-wrap items-baseline gap-4">
        <a href={path} className="break-all underline underline-offset-3" data-testid="address">
          {address}
        </a>
        <button type="button" className="button-quiet" onClick={copy}>
          {copied === address ? 'Copied' : 'Copy'}
        </button>
        {demo.access.link && (
          <button type="button" className="button-quiet" onClick={onNewLink}>
            New link (this one stops working)
          </button>
        )}
      </p>
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
