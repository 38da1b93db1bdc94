/** All versions that were published: what was said of each, what differs, and back to any of them in one step. */
import { useState } from 'react'
import type { DemoState, ReleaseState } from '../../api/client'
import { agoText } from '../../domain/format'
import { Problem } from '../bench/Problem'
import { useDifferences, useMakeLive, useReleases } from './queries'

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
                What the draft has otherwise
                <span className="sr-only"> than version {one.number}</span>
              </button>
            </div>
            <About release={one} />
            {shown === one.number && <Differences slug={demo.slug} from={one.number} />}
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

/** Setting by setting, in the words of the author's pages. */
function Differences({ slug, from }: { slug: string; from: number }) {
  const { data, error } = useDifferences(slug, from)
  if (error) return <Problem error={error} />
  if (!data) return <p className="text-soft">Comparing…</p>
  const features = data.model?.features
  const words = [
    data.is_same_model ? '' : 'The draft has another model.',
    features?.added?.length ? `New fields: ${features.added.join(', ')}.` : '',
    features?.gone?.length ? `Gone: ${features.gone.join(', ')}.` : '',
  ].filter(Boolean)
  if (words.length === 0 && data.settings.length === 0) return <p className="mt-1 text-soft">Nothing: the draft is this version.</p>
  return (
    <>
      {words.length > 0 && <p className="mt-1">{words.join(' ')}</p>}
      {data.settings.length > 0 && (
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`What the draft has otherwise than version ${from}`}>
          <table className="mt-1 text-left">
            <thead>
              <tr className="text-soft">
                <th className="pr-5 font-normal">Setting</th>
                <th className="pr-5 font-normal">Version {from}</th>
                <th className="font-normal">Draft</th>
              </tr>
            </thead>
            <tbody>
              {data.settings.map((one) => (
                <tr key={`${one.what} ${one.field}`} className="border-t border-line align-top">
                  <th scope="row" className="pr-5 font-normal">
                    {one.what}
                  </th>
                  <td className="pr-5">{one.before ?? 'not there'}</td>
                  <td>{one.after ?? 'gone'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  )
}
