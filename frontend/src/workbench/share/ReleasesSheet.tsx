/** All versions that were published: what was said of each, what differs, and back to any of them in one step. */
import { useState } from 'react'
import type { DemoState, ReleaseState } from '../../api/client'
import { agoText } from '../../domain/format'
import { Problem } from '../bench/Problem'
import { AgainstAny } from './Differences'
import { useMakeLive, useReleases } from './queries'

export function ReleasesSheet({ demo }: { demo: DemoState }) {
  const releases = useReleases(demo.slug, demo.release?.number ?? 0)
  const [shown, setShown] = useState<number | null>(null)
  const makeLive = useMakeLive(demo.slug)
  if (!demo.release) return null
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="releases-heading" data-testid="releases">
      <h3 id="releases-heading" className="font-bold">
        Versions
      </h3>
      <Problem error={releases.error ?? makeLive.error} />
      <ol className="mt-1">
        {releases.data?.releases.map((one) => (
          <li key={one.number} className="border-t border-line py-2">
            <div className="flex flex-wrap items-baseline gap-x-5">
              <span className="font-bold">Version {one.number}</span>
              <span className="text-soft">{agoText(one.published_at, new Date())}</span>
              {one.is_live ? (
                <span>visitors see it</span>
              ) : (
                <button type="button" className="button-quiet" disabled={makeLive.isPending} onClick={() => makeLive.mutate(one.number)}>
                  {makeLive.isPending && makeLive.variables === one.number ? 'Getting its model ready…' : 'Show visitors this one again'}
                  <span className="sr-only">: version {one.number}</span>
                </button>
              )}
              <button type="button" className="button-quiet ml-auto" aria-expanded={shown === one.number} onClick={() => setShown(shown === one.number ? null : one.number)}>
                What differs
                <span className="sr-only"> from version {one.number}</span>
              </button>
            </div>
            <About release={one} />
            {shown === one.number && <AgainstAny slug={demo.slug} from={one.number} numbers={releases.data?.releases.map((each) => each.number) ?? []} />}
          </li>
        ))}
      </ol>
    </section>
  )
}

function About({ release }: { release: ReleaseState }) {
  const reasons = Object.entries(release.despite ?? {})
  return (
    <>
      {release.note && <p className="max-w-[65ch]">{release.note}</p>}
      {reasons.map(([check, reason]) => (
        <p key={check} className="max-w-[65ch] text-soft">
          Published though the check “{check}” failed: {reason}
        </p>
      ))}
    </>
  )
}
