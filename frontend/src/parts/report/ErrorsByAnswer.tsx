/** Whether answers are further off where they are low or high: a line a stretch of answers, with a table beside. */
import { scaleLinear } from 'd3-scale'
import type { FullReport } from '../../api/client'
import { Charted } from '../Charted'
import { Framed } from '../Framed'
import { groupedText } from '../../domain/format'

type Stretch = NonNullable<FullReport['by_prediction']>[number]

const WIDTH = 520
const HEIGHT = 150
/** So many times as wide as the narrowest is worth a word. */
const FAR_WIDER = 2

export function ErrorsByAnswer({ stretches, text }: { stretches: Stretch[]; text: (value: number) => string }) {
  const [first, last] = [stretches[0], stretches.at(-1)]
  if (!first || !last || stretches.length < 2) return null
  const most = Math.max(...stretches.flatMap((one) => [Math.abs(one.low_error), Math.abs(one.high_error)])) || 1
  const across = scaleLinear([first.low, last.high], [6, WIDTH - 6])
  const down = scaleLinear([-most, most], [HEIGHT - 6, 6])
  const words = wordsOf(stretches, text)
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="by-answer-heading">
      <h3 id="by-answer-heading" className="font-bold">
        Where answers are low, and where they are high
      </h3>
      <p className="max-w-[65ch]">{words}</p>
      <Charted name="errors-by-answer">
        <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="mt-2 w-full max-w-130" role="img" aria-label={`${words} Below it the chart can be read as a table.`}>
          <path d={`M0 ${down(0)}H${WIDTH}`} stroke="var(--edge)" />
          {stretches.map((one) => (
            <g key={one.low}>
              <path d={`M${across((one.low + one.high) / 2)} ${down(one.low_error)}V${down(one.high_error)}`} stroke="var(--ink)" />
              <path d={`M${across(one.low)} ${down(one.median)}H${Math.max(across(one.low) + 2, across(one.high))}`} stroke="var(--glass)" strokeWidth="3" />
            </g>
          ))}
        </svg>
        <p className="flex max-w-130 justify-between text-[0.86em] text-soft" aria-hidden="true">
          <span>answers from {text(first.low)}</span>
          <span>above the line too high, below it too low</span>
          <span>to {text(last.high)}</span>
        </p>
      </Charted>
      <details>
        <summary className="button-quiet w-fit">As a table</summary>
        <Framed label="Errors by answer">
          <table className="mt-1 text-left">
            <thead>
              <tr className="text-soft">
                <th className="pr-6 font-normal">answers</th>
                <th className="pr-6 text-right font-normal">middle error</th>
                <th className="pr-6 text-right font-normal">90 of 100 lie</th>
                <th className="text-right font-normal">cases</th>
              </tr>
            </thead>
            <tbody>
              {stretches.map((one) => (
                <tr key={one.low} className="border-t border-line">
                  <td className="pr-6">
                    {text(one.low)} to {text(one.high)}
                  </td>
                  <td className="pr-6 text-right">{text(one.median)}</td>
                  <td className="pr-6 text-right">
                    {text(one.low_error)} to {text(one.high_error)}
                  </td>
                  <td className="text-right text-soft">{groupedText(one.cases)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Framed>
      </details>
    </section>
  )
}

function wordsOf(stretches: Stretch[], text: (value: number) => string): string {
  const width = (one: Stretch) => one.high_error - one.low_error
  const widest = stretches.reduce((most, one) => (width(one) > width(most) ? one : most))
  const narrowest = stretches.reduce((least, one) => (width(one) < width(least) ? one : least))
  if (width(widest) <= FAR_WIDER * width(narrowest)) return 'Answers are off by about as much everywhere.'
  return `Answers from ${text(widest.low)} to ${text(widest.high)} are off the most, those from ${text(narrowest.low)} to ${text(narrowest.high)} the least.`
}
