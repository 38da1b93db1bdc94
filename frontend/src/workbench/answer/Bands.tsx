/** Named stretches of a number: "low use" below 60. Each has a sign of its own on the page. */
import { faultText } from '../../api/faultText'
import { useState } from 'react'
import { type NumberSetting } from '../../api/client'
import { parseNumber } from '../../domain/numbers'
import { ToneSign } from '../../parts/ToneSign'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'

type Band = NonNullable<NumberSetting['bands']>[number]

const MOST_BANDS = 8
const TONES = [
  { value: '', label: 'neither' },
  { value: 'calm', label: 'good news' },
  { value: 'caution', label: 'with care' },
  { value: 'alert', label: 'bad news' },
] as const

export function Bands({ draft, setting }: { draft: Draft; setting: NumberSetting }) {
  const bands = setting.bands ?? []
  const [fault, setFault] = useState('')
  const save = (next: Band[]) => draft.save({ answer: { bands: next as unknown as Record<string, never>[] } })
  const change = (at: number, changed: Partial<Band>) => save(bands.map((band, place) => (place === at ? { ...band, ...changed } : band)))
  const tell = (saved: Promise<void>) =>
    void saved.then(
      () => setFault(''),
      (error: unknown) => setFault(faultText(error)),
    )
  const add = () => tell(save(withOneMore(bands, setting)))
  // The last has no end; taking it away leaves the one before without one.
  const remove = (at: number) => tell(save(bands.filter((_, place) => place !== at).map((band, place, left) => (place === left.length - 1 ? { ...band, below: null } : band))))
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="bands-heading" data-testid="bands">
      <h3 id="bands-heading" className="font-bold">
        Bands
      </h3>
      <p className="max-w-[65ch] text-soft">Stretches of the answer with a name, from the lowest up. The page says in which one the answer lies.</p>
      {bands.length > 0 && (
        <ol className="mt-2">
          {bands.map((band, at) => (
            // A band has no identity but its place.
            <li key={at} className="card-line grid grid-cols-[1.2rem_minmax(0,2fr)_minmax(0,1fr)_minmax(0,1fr)_auto] items-end gap-x-4 py-2">
              <span>
                <ToneSign tone={band.tone ?? ''} />
              </span>
              <SavedInput label="Name" value={band.label} onSave={(label) => change(at, { label })} />
              {at < bands.length - 1 ? (
                <SavedInput label={`Below, ${setting.unit || 'up to'}`} value={String(band.below ?? '')} inputMode="decimal" onSave={(text) => change(at, { below: parseNumber(text) ?? (text as unknown as number) })} />
              ) : (
                <span className="text-soft">all that is left</span>
              )}
              <label>
                <span className="block text-soft">It is</span>
                <select className="w-full border-b border-edge bg-paper py-0.5" value={band.tone ?? ''} onChange={(event) => tell(change(at, { tone: event.target.value as Band['tone'] }))}>
                  {TONES.map(({ value, label }) => (
                    <option key={value} value={value}>
                      {label}
                    </option>
                  ))}
                </select>
              </label>
              <button type="button" className="button-quiet" onClick={() => remove(at)}>
                Remove<span className="sr-only"> {band.label}</span>
              </button>
            </li>
          ))}
        </ol>
      )}
      {fault && (
        <p role="alert" className="mt-1 text-alert">
          {fault}
        </p>
      )}
      <button type="button" className="button-plain mt-2" disabled={bands.length >= MOST_BANDS} onClick={add}>
        {bands.length === 0 ? 'Name bands' : 'One more'}
      </button>
    </section>
  )
}

/** Two to begin with, parted in the middle of the outcomes; then one more above the last. */
function withOneMore(bands: Band[], { low, high, decimals }: NumberSetting): Band[] {
  const [from, to] = [low ?? 0, high ?? 100]
  const rounded = (value: number) => Number(value.toFixed(decimals ?? 2))
  if (bands.length === 0) {
    return [
      { label: 'Low', below: rounded((from + to) / 2), tone: '' },
      { label: 'High', below: null, tone: '' },
    ]
  }
  const last = bands.at(-2)?.below ?? from
  const end = last < to ? (last + to) / 2 : last + Math.max(1, (to - from) / 10)
  return [...bands.slice(0, -1), { ...bands.at(-1)!, below: rounded(end) }, { label: `Above ${rounded(end)}`, below: null, tone: '' }]
}
