/** A one-time link was opened. It signs in only when the button is pressed: previews of links press none. */
import { useLocation } from 'wouter'
import { api, expectData } from '../../api/client'
import { useSessionChange } from '../bench/queries'

export function LinkSignIn({ token }: { token: string }) {
  const [, navigate] = useLocation()
  const signIn = useSessionChange(() => expectData(api.POST('/api/v1/session/link', { body: { token } })))
  const press = () =>
    signIn.mutate(undefined, {
      onSuccess: (session) => navigate(session.has_password ? '/' : '/password', { replace: true }),
    })
  return (
    <main className="mx-auto w-full max-w-sm px-5 py-24">
      <h1 className="text-[1.7em] font-bold">Plain Window</h1>
      <p className="mt-1 text-soft">This link signs the author in, once, in this browser.</p>
      <button type="button" className="button-primary mt-8" disabled={signIn.isPending} onClick={press}>
        Sign in
      </button>
      <p role="alert" className="mt-4 text-alert">
        {signIn.error?.message}
      </p>
      {signIn.isError && (
        <p className="mt-1">
          <a href="/" className="button-quiet">
            Sign in with your password
          </a>
        </p>
      )}
    </main>
  )
}
