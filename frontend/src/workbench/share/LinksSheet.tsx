/** Secret links: one for each who is to see it, counted, ended or revoked by itself. */
import { useState } from 'react'
import type { DemoState } from '../../api/client'
import { agoText } from '../../domain/format'
import { useNow } from '../../parts/useNow'
import { Problem } from '../bench/Problem'
import { AddressLine } from './AddressLine'
import { useLinks, useMakeLink, useRevokeLink } from './links'

const DAY_MS = 86_400_000
const ENDS = [
  { days: 0, label: 'never' },
  { days: 1, label: 'after a day' },
  { days: 7, label: 'after a week' },
  { days: 30, label: 'after 30 days' },
  { days: 365, label: 'after a year' },
] as const

export function LinksSheet({ demo }: { demo: DemoState }) {
  const links = useLinks(demo.slug)
  const revoke = useRevokeLink(demo.slug)
  const now = useNow()
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="links-heading" data-testid="links">
      <h3 id="links-heading" className="font-bold">
        Secret links
      </h3>
      <p className="max-w-[65ch] text-soft">Whoever has one can open the page. Give each group its own: then one can be taken back without the others.</p>
      {!demo.release && <p className="text-soft">They open once a version is published.</p>}
      <Problem error={links.error ?? revoke.error} />
      <ul className="mt-1">
        {links.data?.links.map((link, at) => (
          <li key={link.id} className="card-line py-2">
            <div className="flex flex-wrap items-baseline gap-x-5 pb-1">
              <span className="font-bold">{link.name || 'Without a name'}</span>
              <span className="text-soft">
                {link.opened === 0 ? 'not opened yet' : `opened ${link.opened} ${link.opened === 1 ? 'time' : 'times'}`}
                {link.expires && `; ${link.has_ended ? 'ended' : 'ends'} ${endText(link.expires, now)}`}
              </span>
              <button type="button" className="button-quiet ml-auto min-h-6" disabled={revoke.isPending} onClick={() => revoke.mutate(link.id)}>
                Revoke<span className="sr-only"> the link {link.name || 'without a name'}</span>
              </button>
            </div>
            <AddressLine path={link.path} of={`the link ${link.name || 'without a name'}`} testId={at === 0 ? 'address' : undefined} />
          </li>
        ))}
      </ul>
      <NewLink slug={demo.slug} />
    </section>
  )
}

function NewLink({ slug }: { slug: string }) {
  const make = useMakeLink(slug)
  const [name, setName] = useState('')
  const [days, setDays] = useState(0)
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-x-5 gap-y-2"
      onSubmit={(event) => {
        event.preventDefault()
        const expires = days > 0 ? new Date(Date.now() + days * DAY_MS).toISOString() : null
        make.mutate({ name: name.trim(), expires }, { onSuccess: () => setName('') })
      }}
    >
      <label className="min-w-48 flex-1">
        <span className="block text-soft">For whom</span>
        <input className="input-line w-full" value={name} maxLength={120} placeholder="The apprentices" onChange={(event) => setName(event.target.value)} />
      </label>
      <label>
        <span className="block text-soft">It ends</span>
        <select className="border-b border-edge bg-paper py-0.5" value={days} onChange={(event) => setDays(Number(event.target.value))}>
          {ENDS.map((end) => (
            <option key={end.days} value={end.days}>
              {end.label}
            </option>
          ))}
        </select>
      </label>
      <button type="submit" className="button-plain" disabled={make.isPending}>
        Make a link
      </button>
      <Problem error={make.error} />
    </form>
  )
}

function endText(expires: string, now: Date): string {
  const end = new Date(expires)
  return end < now ? agoText(expires, now) : end.toLocaleDateString(undefined, { dateStyle: 'medium' })
}
