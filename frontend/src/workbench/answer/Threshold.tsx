/** From which probability on a class is said: what that does on known cases, while it is dragged, and what it costs. */
import { useRef, useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import { api, ApiError, expectData, type ClassSetting } from '../../api/client'
import { ofHundred } from '../../domain/ofHundred'
import { parseNumber } from '../../domain/numbers'
import { Framed } from '../../parts/Framed'
import { reportKey } from '../bench/queries'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'

const SAVE_AFTER_MS = 400

interface Point {
  threshold: number
  hits: number
  misses: number
  false_alarms: number
  quiet: number
}

export function Threshold({ draft, setting }: { draft: Draft; setting: ClassSetting }) {
  // What was chosen stands at once; what the draft says, from when that is saved.
  const [picked, setPicked] = useState<string | null>(null)
  const of = picked ?? (setting.threshold_of || setting.classes[1]!.name)
  const pick = (name: string) => {
    const settle = () => setPicked((now) => (now === name ? null : now))
    setPicked(name)
    void draft.save({ answer: { threshold_of: name } }).then(settle, settle)
  }
  const isOn = typeof setting.threshold === 'number'
  const wording = setting.classes.find((one) => one.name === of)!
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="threshold-heading" data-testid="threshold">
      <h3 id="threshold-heading" className="font-bold">
        From where on it is said
      </h3>
      <label className="mt-1 flex min-h-7 items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-(--glass)"
          checked={isOn}
          onChange={(event) => void draft.save({ answer: event.target.checked ? { threshold: 0.5, threshold_of: of } : { threshold: null } })}
        />
        Say one class from a probability on, rather than the likelier one
      </label>
      {isOn && (
        <>
          <label className="mt-2 block max-w-xs">
            <span className="block text-soft">The class that is said</span>
            <select className="w-full border-b border-edge bg-paper py-0.5" value={of} onChange={(event) => pick(event.target.value)}>
              {setting.classes.map((one) => (
                <option key={one.name} value={one.name}>
                  {one.headline}
                </option>
              ))}
            </select>
          </label>
          <Chosen draft={draft} setting={setting} of={of} headline={wording.headline} />
        </>
      )}
    </section>
  )
}

function Chosen({ draft, setting, of, headline }: { draft: Draft; setting: ClassSetting; of: string; headline: string }) {
  const { slug } = draft.demo
  // Where the hand has it until that is saved; then what the draft says holds, also if that is set elsewhere.
  // It stays where another class is being saved meanwhile: what was dragged is not lost.
  const [dragged, setAt] = useState<number | null>(null)
  const at = dragged ?? setting.threshold ?? 0.5
  const { save } = draft
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const keep = (next: number) => {
    clearTimeout(timer.current)
    timer.current = undefined
    const settle = () => setAt((now) => (now === next ? null : now))
    void save({ answer: { threshold: next } }).then(settle, settle)
  }
  // Saved after a rest; also where its author has gone to another place by then.
  const drag = (next: number) => {
    setAt(next)
    clearTimeout(timer.current)
    timer.current = setTimeout(() => keep(next), SAVE_AFTER_MS)
  }
  const take = (next: number) => {
    setAt(next)
    keep(next)
  }
  const found = useQuery({
    queryKey: reportKey(slug, 'thresholds', of),
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/thresholds', { params: { path: { slug }, query: { class: of } } })),
    retry: false,
  })
  const point = found.data?.points.find((one) => Math.abs(one.threshold - at) < 0.005)
  const miss = setting.cost_of_miss ?? null
  const alarm = setting.cost_of_false_alarm ?? null
  const cheapest = found.data && miss !== null && alarm !== null ? cheapestOf(found.data.points, miss, alarm) : null
  return (
    <>
      <label className="mt-3 block max-w-md">
        <span className="block">
          “{headline}” is said from <strong>{Math.round(at * 100)} of 100</strong> on
        </span>
        <input
          type="range"
          className="w-full accent-(--glass)"
          min={1}
          max={99}
          step={1}
          value={Math.round(at * 100)}
          aria-valuetext={`${Math.round(at * 100)} of 100`}
          onChange={(event) => drag(Number(event.target.value) / 100)}
          // Publishing waits for what is being saved.
          onBlur={() => dragged !== null && timer.current !== undefined && keep(dragged)}
        />
      </label>
      {found.error && <p className="max-w-[65ch] text-soft">{found.error instanceof ApiError ? found.error.message : 'It could not be counted.'}</p>}
      {point && <Counts point={point} cost={miss !== null && alarm !== null ? miss * point.misses + alarm * point.false_alarms : null} />}
      <div className="mt-3 grid max-w-md grid-cols-2 gap-4">
        <SavedInput label="What a miss costs" value={miss === null ? '' : String(miss)} inputMode="decimal" onSave={(text) => save({ answer: { cost_of_miss: costOf(text) } })} />
        <SavedInput label="What a false alarm costs" value={alarm === null ? '' : String(alarm)} inputMode="decimal" onSave={(text) => save({ answer: { cost_of_false_alarm: costOf(text) } })} />
      </div>
      {cheapest && (
        <p className="mt-2 max-w-[65ch]">
          On these cases it costs least from {Math.round(cheapest.threshold * 100)} of 100 on.{' '}
          {Math.abs(cheapest.threshold - at) >= 0.005 && (
            <button type="button" className="button-quiet" onClick={() => take(cheapest.threshold)}>
              Take that
            </button>
          )}
          <span className="block text-[0.93em] text-soft">It was found on the very cases it is counted on; on new ones it will do a little worse.</span>
        </p>
      )}
    </>
  )
}

/** Four numbers, in words, with their shares. */
function Counts({ point, cost }: { point: Point; cost: number | null }) {
  const so = point.hits + point.misses
  const not = point.false_alarms + point.quiet
  const share = (count: number, all: number) => (all > 0 ? ` (${ofHundred(count / all)} of 100)` : '')
  const rows = [
    ['It was so, and is said (hits)', `${point.hits}${share(point.hits, so)}`],
    ['It was so, and is not said (misses)', `${point.misses}${share(point.misses, so)}`],
    ['It was not, and is said (false alarms)', `${point.false_alarms}${share(point.false_alarms, not)}`],
    ['It was not, and is not said', `${point.quiet}${share(point.quiet, not)}`],
    ...(cost === null ? [] : [['What the misses and false alarms cost', String(Number(cost.toPrecision(6)))]]),
  ]
  return (
    <Framed label="What this threshold does on known cases">
      <table className="mt-2 text-left" aria-live="polite">
        <tbody>
          {rows.map(([words, count]) => (
            <tr key={words} className="border-t border-line">
              <th scope="row" className="py-0.5 pr-6 font-normal">
                {words}
              </th>
              <td className="text-right">{count}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Framed>
  )
}

function costOf(text: string): number | null {
  return text.trim() === '' ? null : (parseNumber(text) ?? (text as unknown as number))
}

/** Of several that cost the same, the one in the middle: it is the least by chance. */
export function cheapestOf(points: Point[], miss: number, alarm: number): Point | null {
  const costs = points.map((point) => miss * point.misses + alarm * point.false_alarms)
  const least = Math.min(...costs)
  const best = points.filter((_, at) => costs[at] === least)
  return best[Math.floor(best.length / 2)] ?? null
}
