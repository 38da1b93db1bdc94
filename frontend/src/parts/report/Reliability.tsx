/** Whether probabilities come true: each tenth of them against how often it did, with the range that share may have. */
import { scaleLinear } from 'd3-scale'
import type { FullReport } from '../../api/client'
import { ofHundred } from '../../domain/ofHundred'
import { Charted } from '../Charted'
import { Framed } from '../Framed'
import { groupedText } from '../../domain/format'

type Bin = NonNullable<FullReport['calibration']>[number]

const SIDE = 260
const EDGE = 22
const FEWEST = 10

export function Reliability({ bins, of }: { bins: Bin[]; of: string | null }) {
  if (bins.length === 0) return null
  const across = scaleLinear([0, 1], [EDGE, SIDE - 4])
  const down = scaleLinear([0, 1], [SIDE - EDGE, 4])
  const off = bins.filter((bin) => bin.cases >= FEWEST && (bin.predicted < bin.low || bin.predicted > bin.high))
  const what = of ? `“${of}”` : 'the answer'
  const isTold = bins.some((bin) => bin.cases >= FEWEST)
  const words = !isTold ? 'In no tenth are there known cases enough to tell.' : off.length === 0 ? `Where there are ${FEWEST} cases or more, what the model gives ${what} comes true about as often as it says.` : off.map((bin) => binWords(bin, what)).join(' ')
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="reliability-heading">
      <h3 id="reliability-heading" className="font-bold">
        Whether its probabilities come true
      </h3>
      <p className="max-w-[65ch]">{words}</p>
      <div className="mt-2 flex flex-wrap items-start gap-x-8 gap-y-3">
        <Charted name="reliability">
        <svg viewBox={`0 0 ${SIDE} ${SIDE}`} className="w-65" role="img" aria-label={`${words} The table beside it has the numbers.`}>
          <path d={`M${across(0)} ${down(0)}H${across(1)}M${across(0)} ${down(0)}V${down(1)}`} stroke="var(--edge)" />
          <path d={`M${across(0)} ${down(0)}L${across(1)} ${down(1)}`} stroke="var(--line)" strokeDasharray="4 4" />
          {bins.map((bin) => (
            <g key={bin.predicted}>
              <path d={`M${across(bin.predicted)} ${down(bin.low)}V${down(bin.high)}`} stroke="var(--ink)" strokeWidth="1" />
              <circle cx={across(bin.predicted)} cy={down(bin.happened)} r={bin.cases >= FEWEST ? 5 : 3} fill={bin.cases >= FEWEST ? 'var(--glass)' : 'var(--paper)'} stroke="var(--glass)" />
            </g>
          ))}
          <text x={across(1)} y={SIDE - 6} textAnchor="end" className="fill-soft text-[11px]">
            what it said, of 100
          </text>
          <text x={4} y={14} className="fill-soft text-[11px]">
            what happened
          </text>
        </svg>
        </Charted>
        <Framed label="Probabilities and how often they came true">
          <table className="text-left text-[0.92em]">
            <thead>
              <tr className="text-soft">
                <th className="pr-5 text-right font-normal">said</th>
                <th className="pr-5 text-right font-normal">happened</th>
                <th className="text-right font-normal">cases</th>
              </tr>
            </thead>
            <tbody>
              {bins.map((bin) => (
                <tr key={bin.predicted} className="border-t border-line">
                  <td className="py-0.5 pr-5 text-right">{ofHundred(bin.predicted)} of 100</td>
                  <td className="pr-5 text-right">
                    {ofHundred(bin.happened)} ({ofHundred(bin.low)} to {ofHundred(bin.high)})
                  </td>
                  <td className="text-right text-soft">{groupedText(bin.cases)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Framed>
      </div>
    </section>
  )
}

function binWords(bin: Bin, what: string): string {
  const side = bin.happened < bin.predicted ? 'less often' : 'more often'
  return `Where it gives ${what} about ${ofHundred(bin.predicted)} of 100, it came true ${side}: ${ofHundred(bin.happened)} of 100.`
}
