/** Which of the author's pages is shown. */
import { Link, Route, Switch, useRoute } from 'wouter'
import { BringModel } from './shelf/BringModel'
import { DemoBench } from './bench/DemoBench'
import { JobsPage } from './shelf/JobsPage'
import { KeysPage } from './shelf/KeysPage'
import { LinkSignIn } from './shelf/LinkSignIn'
import { PasswordForm } from './shelf/PasswordForm'
import { useSession, useSignOut } from './bench/queries'
import { Shelf } from './shelf/Shelf'
import { SignInForm } from './shelf/SignInForm'
import { StarterPage } from './starter/StarterPage'
import { StartPage } from './starter/StartPage'

export function Workbench() {
  const session = useSession()
  const signOut = useSignOut()
  // A bench is as high as the window, always; its places scroll within it.
  const [isBench] = useRoute('/demos/:slug/:place?')
  const [isLink, link] = useRoute('/sign-in/:token')
  if (session.isPending) return <p className="px-8 py-24 text-soft">Opening…</p>
  if (session.isError) return <p className="px-8 py-24 text-soft">{session.error.message}</p>
  if (isLink) return <LinkSignIn token={link.token} />
  if (!session.data.author) return <SignInForm />
  return (
    <div className={`flex flex-col ${isBench ? 'h-dvh overflow-clip' : 'min-h-screen'}`}>
      <header className="flex items-baseline gap-5 border-b border-line px-6 py-2.5">
        <Link href="/" className="font-bold">
          Plain Window
        </Link>
        {!session.data.has_password && (
          <span className="text-caution">
            <span aria-hidden="true">! </span>
            <Link href="/password" className="button-quiet">
              Set a password
            </Link>
            , so that you can sign in again.
          </span>
        )}
        <nav aria-label="Your account" className="ml-auto flex gap-5 text-soft">
          <span>{session.data.author}</span>
          <Link href="/jobs" className="button-quiet">
            Jobs
          </Link>
          <Link href="/keys" className="button-quiet">
            Keys
          </Link>
          <Link href="/password" className="button-quiet">
            Password
          </Link>
          <button type="button" className="button-quiet" onClick={() => signOut.mutate()}>
            Sign out
          </button>
        </nav>
      </header>
      <Switch>
        <Route path="/password">
          <PasswordForm session={session.data} />
        </Route>
        <Route path="/jobs">
          <JobsPage />
        </Route>
        <Route path="/keys">
          <KeysPage />
        </Route>
        <Route path="/new">
          <BringModel />
        </Route>
        <Route path="/start">
          <StartPage />
        </Route>
        <Route path="/start/:id">{(params) => <StarterPage key={params.id} id={params.id} />}</Route>
        <Route path="/demos/:slug/:place?">
          {(params) => <DemoBench key={params.slug} slug={params.slug} place={params.place ?? 'inputs'} />}
        </Route>
        <Route>
          <Shelf />
        </Route>
      </Switch>
    </div>
  )
}
