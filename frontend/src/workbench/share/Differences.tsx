/** What differs between a version and the draft, or any other version. */
import { useState } from 'react'
import { Problem } from '../bench/Problem'
import { useDifferences } from './queries'

/** Against the draft, or against any other version. */
export function AgainstAny({ slug, from, numbers }: { slug: string; from: number; numbers: number[] }) {
  const [to, setTo] = useState('draft')
  return (
    <>
      <label className="text-soft">
        against{' '}
        <select className="border-b border-edge bg-paper py-0.5 text-ink" value={to} onChange={(event) => setTo(event.target.value)}>
          <option value="draft">the draft</option>
          {numbers
            .filter((number) => number !== from)
            .map((number) => (
              <option key={number} value={String(number)}>
                version {number}
              </option>
            ))}
        </select>
      </label>
      <Differences slug={slug} from={from} to={to} />
    </>
  )
}

/** Setting by setting, in the words of the author's pages. */
function Differences({ slug, from, to }: { slug: string; from: number; to: string }) {
  const { data, error } = useDifferences(slug, from, to)
  const other = to === 'draft' ? 'draft' : `version ${to}`
  if (error) return <Problem error={error} />
  if (!data) return <p className="text-soft">Comparing…</p>
  const features = data.model?.features
  const words = [
    data.is_same_model ? '' : `The ${other} has another model.`,
    features?.added?.length ? `New fields: ${features.added.join(', ')}.` : '',
    features?.gone?.length ? `Gone: ${features.gone.join(', ')}.` : '',
  ].filter(Boolean)
  if (words.length === 0 && data.settings.length === 0) return <p className="mt-1 text-soft">Nothing: they are the same.</p>
  return (
    <>
      {words.length > 0 && <p className="mt-1">{words.join(' ')}</p>}
      {data.settings.length > 0 && (
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`What the ${other} has otherwise than version ${from}`}>
          <table className="mt-1 text-left">
            <thead>
              <tr className="text-soft">
                <th className="pr-5 font-normal">Setting</th>
                <th className="pr-5 font-normal">Version {from}</th>
                <th className="font-normal">{to === 'draft' ? 'Draft' : `Version ${to}`}</th>
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
