/** Signing in with name and password. */
import { useState } from 'react'
import { api, expectData } from '../../api/client'
import { TextInput } from '../../parts/TextInput'
import { useSessionChange } from '../bench/queries'

export function SignInForm() {
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const signIn = useSessionChange((body: { name: string; password: string }) =>
    expectData(api.POST('/api/v1/session', { body })),
  )
  return (
    <main className="mx-auto w-full max-w-sm px-5 py-24">
      <h1 className="text-[1.7em] font-bold">Plain Window</h1>
      <p className="mt-1 text-soft">A trained model as a page that anyone can use and understand.</p>
      <form
        className="mt-8 space-y-5"
        onSubmit={(event) => (event.preventDefault(), signIn.mutate({ name, password }))}
      >
        <TextInput label="Name" value={name} autoComplete="username" required onChange={(event) => setName(event.target.value)} />
        <TextInput
          label="Password"
          type="password"
          value={password}
          autoComplete="current-password"
          required
          onChange={(event) => setPassword(event.target.value)}
        />
        <p role="alert" className="text-alert">
          {signIn.error?.message}
        </p>
        <button type="submit" className="button-primary" disabled={signIn.isPending}>
          Sign in
        </button>
      </form>
    </main>
  )
}
