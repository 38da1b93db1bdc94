/** Several numbers, or several labels: each by itself. */
import type { FullReport } from '../../api/client'
import { groupedText, numberText } from '../../domain/format'
import { ofHundred, shareText } from '../../domain/ofHundred'
import { Framed } from '../Framed'
import { TogetherWords } from './TogetherWords'

export function SeveralReports({ report }: { report: FullReport }) {
  const { values = [], labels = [] } = report
  if (values.length === 0 && labels.length === 0) return null
  return (
    <>
      <p className="mt-1">Of {groupedText(report.cases)} known cases, each answer by itself:</p>
      <Framed label="Each answer by itself">{values.length > 0 ? <Values values={values} /> : <Labels labels={labels} />}</Framed>
      <TogetherWords report={report} />
    </>
  )
}

function Values({ values }: { values: NonNullable<FullReport['values']> }) {
  return (
    <table className="mt-2 text-left">
      <thead>
        <tr className="text-soft">
          <th className="pr-5 font-normal">Answer</th>
          <th className="pr-5 text-right font-normal">half of them off by less than</th>
          <th className="pr-5 text-right font-normal">on average off by</th>
          <th className="text-right font-normal">cases</th>
        </tr>
      </thead>
      <tbody>
        {values.map((one) => (
          <tr key={one.name} className="border-t border-line">
            <th scope="row" className="py-1 pr-5 font-normal">
              {one.name}
            </th>
            <td className="pr-5 text-right">
              {numberText(Number(one.median_absolute_error.toPrecision(3)))} {one.unit}
            </td>
            <td className="pr-5 text-right">
              {numberText(Number(one.mean_absolute_error.toPrecision(3)))} {one.unit}
            </td>
            <td className="text-right text-soft">{groupedText(one.cases)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Labels({ labels }: { labels: NonNullable<FullReport['labels']> }) {
  return (
    <table className="mt-2 text-left">
      <thead>
        <tr className="text-soft">
          <th className="pr-5 font-normal">Label</th>
          <th className="pr-5 text-right font-normal">right for</th>
          <th className="pr-5 text-right font-normal">said so, and was (precision)</th>
          <th className="pr-5 text-right font-normal">was so, and found (recall)</th>
          <th className="text-right font-normal">have it</th>
        </tr>
      </thead>
      <tbody>
        {labels.map((one) => (
          <tr key={one.name} className="border-t border-line">
            <th scope="row" className="py-1 pr-5 font-normal">
              {one.label}, from {ofHundred(one.threshold)} of 100 on
            </th>
            <td className="pr-5 text-right">{shareText(one.share_right)}</td>
            <td className="pr-5 text-right">{one.precision === null ? 'never said' : `${ofHundred(one.precision)} of 100`}</td>
            <td className="pr-5 text-right">{one.recall === null ? 'none had it' : `${ofHundred(one.recall)} of 100`}</td>
            <td className="text-right text-soft">{groupedText(one.cases)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
