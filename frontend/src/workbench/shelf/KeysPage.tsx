/** Keys for programs: made, listed, revoked. */
import { useState } from 'react'
import { TextInput } from '../../parts/TextInput'
import { useKeys, useMakeKey, useRevokeKey } from '../bench/queries'
import { KeyRow } from './KeyRow'

export function KeysPage() {
  return (
    <main className="mx-auto w-full max-w-2xl px-5 py-12">
      <h1 className="text-[1.5em] font-bold">Keys</h1>
      <KeysSheet />
    </main>
  )
}

/** The keys themselves, here and beside the calls they are for. */
export function KeysSheet() {
  const keys = useKeys()
  const revoke = useRevokeKey()
  return (
    <>
      <p className="mt-1 text-soft">A program with one of these may do all that you may, except sign in, set your password, or make keys.</p>
      <MakeKey />
      <h2 className="card-line mt-10 pt-4 font-bold">Your keys</h2>
      {keys.isError && <p className="mt-2 text-alert">{keys.error.message}</p>}
      {keys.data?.keys.length === 0 && <p className="mt-2 text-soft">None yet.</p>}
      <ul>
        {keys.data?.keys.map((key) => (
          <KeyRow key={key.id} value={key} onRevoke={() => revoke.mutate(key.id)} />
        ))}
      </ul>
      <p role="alert" className="mt-2 text-alert">
        {revoke.error?.message}
      </p>
    </>
  )
}

function MakeKey() {
  const [name, setName] = useState('')
  const make = useMakeKey()
  return (
    <form
      className="mt-6"
      onSubmit={(event) => {
        event.preventDefault()
        make.mutate(name, { onSuccess: () => setName('') })
      }}
    >
      <div className="flex items-end gap-3">
        <TextInput
          className="flex-1"
          label="What it is for"
          value={name}
          maxLength={120}
          required
          onChange={(event) => setName(event.target.value)}
        />
        <button type="submit" className="button-plain" disabled={make.isPending}>
          Make a key
        </button>
      </div>
      <div role="status">
        {make.data?.key && (
          <p className="mt-4">
            The key for “{make.data.name}”. Copy it now; it is not shown again.
            <code className="mt-1 block border border-line p-3 break-all select-all">{make.data.key}</code>
          </p>
        )}
        {make.error && <p className="mt-2 text-alert">{make.error.message}</p>}
      </div>
    </form>
  )
}
