/** How visitors use the demo, in a sentence or two, and day by day as marks. */
import type { DemoState } from '../../api/client'
import { Problem } from '../bench/Problem'
import { LiveReport } from './LiveReport'
import { useUse } from './queries'

const DAYS_SHOWN = 14
/** Of fewer answers nothing is said of 95 in 100. */
const FEWEST_FOR_95 = 40

export function UseWords({ demo, isWanted }: { demo: DemoState; isWanted: boolean }) {
  const { data, error } = useUse(demo.slug, isWanted)
  if (error) return <Problem error={error} />
  if (!data || data.days.length === 0) return demo.answers_in === 'browser' ? <ElsewhereToo /> : null
  const { answers, failures, times, days } = data
  const failed = failures === 0 ? 'none failed' : `${failures} failed`
  const half = times ? ` Half of the answers took ${msText(times.median_ms)} or less` : ''
  const took = half && times && answers >= FEWEST_FOR_95 ? `${half}, 95 of 100 ${msText(times.p95_ms)} or less.` : half && `${half}.`
  return (
    <>
      <p className="mt-1">
        In the last 30 days visitors had {answers} {answers === 1 ? 'answer' : 'answers'}; {failed}.{took}
      </p>
      {demo.answers_in === 'browser' && <ElsewhereToo />}
      {data.live && <LiveReport demo={demo} live={data.live} />}
      <details>
        <summary className="button-quiet w-fit">Day by day</summary>
        <table className="mt-1 text-left">
          <thead>
            <tr className="text-soft">
              <th className="pr-5 font-normal">Day (UTC)</th>
              <th className="pr-5 text-right font-normal">answers</th>
              <th className="pr-5 text-right font-normal">failed</th>
              <th className="text-right font-normal">refused</th>
            </tr>
          </thead>
          <tbody>
            {days.slice(0, DAYS_SHOWN).map((day) => (
              <tr key={day.day} className="border-t border-line">
                <td className="pr-5">{day.day}</td>
                <td className="pr-5 text-right">{day.answers}</td>
                <td className={`pr-5 text-right ${day.failures > 0 ? 'text-caution' : ''}`}>{day.failures}</td>
                <td className="text-right">{day.refused}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </>
  )
}

/** What is counted is not all that there is. */
function ElsewhereToo() {
  return <p className="mt-1 text-soft">The page answers in visitors’ browsers. Only what they let the server answer, and what programs ask, is counted here.</p>
}

function msText(milliseconds: number): string {
  return milliseconds >= 1000 ? `${(milliseconds / 1000).toFixed(1)}\u00a0s` : `${Math.max(1, Math.ceil(milliseconds))}\u00a0ms`
}
