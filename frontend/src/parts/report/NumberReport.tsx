/** A regressor's report: how far off it is, how its errors lie, and whether its intervals hold what they promise. */
import { scaleLinear } from 'd3-scale'
import type { AnswerSetting, FullReport } from '../../api/client'
import { Charted } from '../Charted'
import { ErrorsByAnswer } from './ErrorsByAnswer'
import { TogetherWords } from './TogetherWords'
import { groupedText, numberText } from '../../domain/format'
import { ofHundred, shareText } from '../../domain/ofHundred'

interface NumberReportProps {
  answer: AnswerSetting
  report: FullReport
  /** Half of the errors are below it, as the page says it: rounded once. */
  typicalError: string | null | undefined
}

export function NumberReport({ answer, report, typicalError }: NumberReportProps) {
  if (answer.kind !== 'number' || report.median_absolute_error === null || report.median_absolute_error === undefined) return null
  const text = (value: number) => `${numberText(Number(value.toFixed(answer.decimals ?? 2)))} ${answer.unit}`.trim()
  const error = report.mean_absolute_error_interval
  return (
    <>
      <p className="mt-1 max-w-[65ch] text-[1.1em]">
        {/* The page says it so, and it is rounded once. */}
        Half of its answers to {groupedText(report.cases)} known cases were off by less than {typicalError ?? text(report.median_absolute_error)} {typicalError ? answer.unit : ''}.
      </p>
      {error && (
        <p className="max-w-[65ch]">
          On average they were off by {text(error.value)} ({text(error.low)} to {text(error.high)}), by the root of the mean square {text(report.root_mean_square_error ?? 0)}.
          {r2Words(report.r2)}
        </p>
      )}
      {report.coverage_interval && report.stated_coverage && (
        <p className="mt-1 max-w-[65ch]">
          Intervals that promise {ofHundred(report.stated_coverage)} of 100 held the truth for {shareText(report.coverage_interval)}, each tried on cases that had no part in making them.
          {report.coverage_interval.high < report.stated_coverage && <strong className="text-caution"> ! That is less than they promise.</strong>}
        </p>
      )}
      <TogetherWords report={report} />
      <Errors report={report} text={text} />
      <ErrorsByAnswer stretches={report.by_prediction ?? []} text={text} />
    </>
  )
}

/** Below nothing it is worse than a model that always says the mean, and must not read as nothing. */
function r2Words(r2: number | null | undefined): string {
  if (r2 === null || r2 === undefined) return ''
  if (r2 <= 0) return ` That is no better than always saying the mean (R² ${r2.toFixed(2)}).`
  return ` Of what makes known cases differ, the model accounts for ${ofHundred(r2)} of 100 (R²).`
}

const WIDTH = 520
const HEIGHT = 120

/** How errors lie around nothing: too low on the left, too high on the right. */
export function Errors({ report, text }: { report: Pick<FullReport, 'errors'>; text: (value: number) => string }) {
  const bins = report.errors ?? []
  const [first, last] = [bins[0], bins.at(-1)]
  if (!first || !last || first.low === last.high) return null
  const across = scaleLinear([first.low, last.high], [0, WIDTH])
  const most = Math.max(...bins.map((bin) => bin.cases))
  const down = scaleLinear([0, most], [HEIGHT, 8])
  const low = bins.filter((bin) => bin.high <= 0).reduce((sum, bin) => sum + bin.cases, 0)
  const all = bins.reduce((sum, bin) => sum + bin.cases, 0)
  const words = `Answers were too low for ${ofHundred(low / all)} of 100 known cases, and right or too high for the others.`
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="errors-heading">
      <h3 id="errors-heading" className="font-bold">
        How far off, and to which side
      </h3>
      <p>{words}</p>
      <Charted name="errors">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="mt-2 w-full max-w-130 border-b border-edge" role="img" aria-label={`${words} Below it the chart can be read as a table.`}>
        {bins.map((bin) => (
          <rect key={bin.low} x={across(bin.low) + 0.5} y={down(bin.cases)} width={Math.max(1, across(bin.high) - across(bin.low) - 1)} height={HEIGHT - down(bin.cases)} fill="var(--glass-pale)" stroke="var(--glass)" strokeWidth="1" />
        ))}
        <path d={`M${across(0)} 0V${HEIGHT}`} stroke="var(--ink)" />
      </svg>
      <p className="flex max-w-130 justify-between text-[0.86em] text-soft" aria-hidden="true">
        <span>{text(-first.low)} too low</span>
        <span>right</span>
        <span>{text(last.high)} too high</span>
      </p>
      </Charted>
      <details>
        <summary className="button-quiet w-fit">As a table</summary>
        <table className="mt-1 text-left">
          <thead>
            <tr className="text-soft">
              <th className="pr-6 font-normal">answer less truth</th>
              <th className="text-right font-normal">cases</th>
            </tr>
          </thead>
          <tbody>
            {bins.map((bin) => (
              <tr key={bin.low} className="border-t border-line">
                <td className="pr-6">
                  {text(bin.low)} to {text(bin.high)}
                </td>
                <td className="text-right">{groupedText(bin.cases)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </section>
  )
}
