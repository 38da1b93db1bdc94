/** Setting or changing the password. */
import { useState } from 'react'
import { useLocation } from 'wouter'
import { api, expectData } from '../../api/client'
import type { SessionState } from '../../api/client'
import { TextInput } from '../../parts/TextInput'
import { useSessionChange, useSignOutEverywhere } from '../bench/queries'

const MIN_CHARACTERS = 10

export function PasswordForm({ session }: { session: SessionState }) {
  const hasPassword = session.has_password
  const signOutEverywhere = useSignOutEverywhere()
  const [oldPassword, setOldPassword] = useState('')
  const [password, setPassword] = useState('')
  const [, navigate] = useLocation()
  const change = useSessionChange((body: { password: string; old_password: string | null }) =>
    expectData(api.PUT('/api/v1/session/password', { body })),
  )
  const submit = () =>
    change.mutate({ password, old_password: session.asks_old_password ? oldPassword : null }, { onSuccess: () => navigate('/') })
  return (
    <main className="mx-auto w-full max-w-sm px-5 py-16">
      <h1 className="text-[1.5em] font-bold">{hasPassword ? 'Change your password' : 'Choose a password'}</h1>
      <p className="mt-1 text-soft">
        {hasPassword ? 'All other browsers are signed out by this.' : 'The link you came with works only once; with a password you can come back.'}
      </p>
      <form className="mt-8 space-y-5" onSubmit={(event) => (event.preventDefault(), submit())}>
        {session.asks_old_password && (
          <TextInput
            label="Old password"
            type="password"
            value={oldPassword}
            autoComplete="current-password"
            onChange={(event) => setOldPassword(event.target.value)}
          />
        )}
        <TextInput
          label="New password"
          type="password"
          value={password}
          autoComplete="new-password"
          minLength={MIN_CHARACTERS}
          required
          help={`At least ${MIN_CHARACTERS} characters. A few words are easier to remember than signs.`}
          onChange={(event) => setPassword(event.target.value)}
        />
        <p role="alert" className="text-alert">
          {change.error?.message}
        </p>
        <button type="submit" className="button-primary" disabled={change.isPending}>
          Set password
        </button>
      </form>
      <div className="card-line mt-10 pt-4">
        <h2 className="font-bold">Other browsers</h2>
        <p className="mt-1 text-soft">Signed in somewhere you should not be? This ends every session, this one too.</p>
        <button type="button" className="button-quiet mt-2" onClick={() => signOutEverywhere.mutate()}>
          Sign out everywhere
        </button>
        {signOutEverywhere.error && <p className="mt-1 text-alert">{signOutEverywhere.error.message}</p>}
      </div>
    </main>
  )
}
