/** What visitors said of the live version's answers, gathered. */
import type { DemoState, LiveReportState } from '../../api/client'
import { groupedText, numberText } from '../../domain/format'
import { shareText } from '../../domain/ofHundred'
import { agoText } from '../../domain/format'
import { useNow } from '../../parts/useNow'

export function LiveReport({ demo, live }: { demo: DemoState; live: LiveReportState }) {
  const now = useNow()
  const { answer } = demo
  const labelOf = (name: string) => (answer.kind === 'class' && answer.classes.find((one) => one.name === name)?.label) || name
  const textOf = (value: string) => (answer.kind === 'number' ? `${numberText(Number(Number(value).toFixed(answer.decimals ?? 2)))} ${answer.unit}`.trim() : labelOf(value))
  return (
    <div className="mt-2" data-testid="live-report">
      {live.share_right && (
        <p className="max-w-[65ch]">
          Of version {live.release} visitors called {groupedText(live.cases)} {live.cases === 1 ? 'answer' : 'answers'} right or wrong: right for {shareText(live.share_right)}.
          <span className="text-soft"> Who says so chose to: it is no fair draw of all cases.</span>
        </p>
      )}
      {live.mean_absolute_error !== null && live.mean_absolute_error !== undefined && answer.kind === 'number' && (
        <p>
          Where they said what it really was ({live.with_truth}), it was off by {textOf(String(live.mean_absolute_error))} on average.
        </p>
      )}
      <details className="mt-1">
        <summary className="button-quiet w-fit">What they said</summary>
        <ul>
          {(live.said ?? []).map((one) => (
            <li key={`${one.at} ${one.answer}`} className="border-t border-line py-0.5">
              <span className={one.right ? '' : 'text-caution'}>{one.right ? '✓ right' : '! wrong'}</span> · answered {textOf(one.answer)}
              {one.truth && `, it was ${textOf(one.truth)}`} <span className="text-soft">{agoText(one.at, now)}</span>
              {one.comment && <span className="block text-soft">“{one.comment}”</span>}
            </li>
          ))}
        </ul>
        <a className="button-quiet" href={`/api/v1/demos/${demo.slug}/outcomes.csv`}>
          All of it as CSV
        </a>
      </details>
    </div>
  )
}
