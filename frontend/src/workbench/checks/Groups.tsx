/** The same by the values of one field: "right for 71 of 100 porcelain pieces, 79 of 100 others". */
import { scaleLinear } from 'd3-scale'
import type { DemoState, Estimate, FullReport, Group } from '../../api/client'
import { groupedText, numberText } from '../../domain/format'
import { shareText } from '../../domain/ofHundred'
import { Framed } from '../../parts/Framed'

const WIDTH = 180

interface GroupsProps {
  demo: DemoState
  report: FullReport
  by: string | null
  onBy: (field: string | null) => void
}

export function Groups({ demo, report, by, onBy }: GroupsProps) {
  const fields = demo.fields.filter((field) => ['number', 'choice', 'yes_no'].includes(field.kind))
  const groups = (report.by === by && report.groups) || []
  if (fields.length === 0 || !(report.share_right || report.mean_absolute_error_interval)) return null
  const highest = Math.max(...groups.map((group) => estimateOf(group)?.high ?? group.mean_absolute_error ?? 0))
  const across = scaleLinear([0, report.share_right ? 1 : highest], [0, WIDTH])
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="groups-heading">
      <h3 id="groups-heading" className="font-bold">
        For whom it does well, and for whom less
      </h3>
      <label className="mt-1 flex items-baseline gap-3">
        By
        <select className="border-b border-edge bg-paper py-0.5" value={by ?? ''} onChange={(event) => onBy(event.target.value || null)}>
          <option value="">choose a field</option>
          {fields.map((field) => (
            <option key={field.name} value={field.name}>
              {field.label}
            </option>
          ))}
        </select>
      </label>
      {groups.length > 0 && (
        <Framed label="The report by the values of a field">
          <table className="mt-2 text-left">
            <thead>
              <tr className="text-soft">
                <th className="pr-5 font-normal">{fields.find((field) => field.name === by)?.label}</th>
                <th className="pr-5 font-normal">{report.share_right ? 'right for' : 'off by, on average'}</th>
                <th aria-hidden="true" />
                <th className="pl-5 text-right font-normal">cases</th>
              </tr>
            </thead>
            <tbody>
              {groups.map((group) => {
                const estimate = estimateOf(group)
                return (
                  <tr key={group.label} className="border-t border-line">
                    <th scope="row" className="py-1 pr-5 font-normal">
                      {group.label}
                    </th>
                    <td className="pr-5">{estimate ? (report.share_right ? shareText(estimate) : errorText(estimate, demo)) : 'one case tells nothing'}</td>
                    <td aria-hidden="true">
                      {estimate && (
                        <svg viewBox={`-4 0 ${WIDTH + 8} 14`} className="h-3.5 w-47">
                          <path d={`M0 13H${WIDTH}`} stroke="var(--line)" />
                          <path d={`M${across(estimate.low)} 7H${across(estimate.high)}`} stroke="var(--ink)" />
                          <circle cx={across(estimate.value)} cy={7} r={4} fill={group.is_small ? 'var(--paper)' : 'var(--glass)'} stroke="var(--glass)" />
                        </svg>
                      )}
                    </td>
                    <td className="pl-5 text-right text-soft">
                      {groupedText(group.cases)}
                      {group.is_small && ', few'}
                    </td>
                  </tr>
                )
              })}
            </tbody>
          </table>
        </Framed>
      )}
    </section>
  )
}

function estimateOf(group: Group): Estimate | null {
  return group.share_right ?? group.mean_absolute_error_interval ?? null
}

function errorText({ value, low, high }: Estimate, { answer }: DemoState): string {
  const decimals = answer.kind === 'number' ? (answer.decimals ?? 2) : 2
  const text = (amount: number) => numberText(Number(amount.toFixed(decimals)))
  return `${text(value)} ${answer.kind === 'number' ? answer.unit : ''} (${text(low)} to ${text(high)})`
}
