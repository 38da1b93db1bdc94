/** Which boxes are shown: a slider for the least score, a switch for each kind. */
import { countsByName } from '../../domain/boxes'
import { ofHundred } from '../../domain/ofHundred'
import { InlineMark } from '../../parts/Mark'
import { LOWEST_SCORE, markOfBox, type BoxesView } from '../pictures/boxesView'

export function LeastScore({ view: { leastScore, onLeastScore } }: { view: BoxesView }) {
  const now = ofHundred(leastScore)
  return (
    <label className="mt-3 block text-[0.92em] print:hidden">
      <span className="flex justify-between gap-4">
        <span>Show from a score of</span>
        <span className="tabular-nums">{now} of 100</span>
      </span>
      <input
        type="range"
        className="slider mt-1"
        min={100 * LOWEST_SCORE}
        max={95}
        value={now}
        aria-label="Least score, of 100"
        onChange={(event) => onLeastScore(Number(event.target.value) / 100)}
      />
    </label>
  )
}

/** Each kind with how many there are of it, and whether they are shown. */
export function Kinds({ view: { answer, setting, leastScore, off, onSwitch } }: { view: BoxesView }) {
  const counts = countsByName(answer, leastScore)
  return (
    <fieldset className="mt-3 text-[0.92em] print:hidden">
      <legend className="sr-only">Which kinds are shown</legend>
      <div className="flex flex-wrap gap-x-5">
        {setting.labels.map((one) => (
          <label key={one.name} className="flex min-h-8 items-center gap-2">
            <input type="checkbox" className="size-5 accent-(--glass)" checked={!off.has(one.name)} onChange={(event) => onSwitch(one.name, event.target.checked)} />
            <InlineMark {...markOfBox(setting, one.name)} />
            <span>
              {one.label} <span className="text-soft">({counts.get(one.name) ?? 0})</span>
            </span>
          </label>
        ))}
      </div>
    </fieldset>
  )
}
