/** The page as one file that needs no server: what would be in it, what it weighs, and what it could not do. */
import { useState } from 'react'
import type { components } from '../../api/types'
import type { DemoState } from '../../api/client'
import { faultText } from '../../api/faultText'
import { weightText } from '../../domain/format'
import { isSeen } from '../../domain/kinds'
import { handOver } from '../../parts/handOver'
import { OwnPage } from './OwnPage'
import { RowsAlong } from './RowsAlong'
import { rowsQuery, useTakeAway, useTakeAwayPlan } from './queries'

type Plan = components['schemas']['TakeAwayPlan']

const PARTS = { page: 'the page itself', engine: 'what runs models of pictures', model: 'the model', rows: 'rows of the reference table', rest: 'wording, curves, overviews, ready cases and reference answers' }

export function TakeAway({ demo }: { demo: DemoState }) {
  const [isOpen, setIsOpen] = useState(false)
  const [chosen, setChosen] = useState<boolean | null>(null)
  const plan = useTakeAwayPlan(demo.slug, demo.release?.number ?? null, chosen, isOpen)
  return (
    <details className="card-line mt-5 pt-4" onToggle={(event) => setIsOpen(event.currentTarget.open)}>
      <summary className="font-bold">As a file that needs no server</summary>
      <p className="mt-2 max-w-[65ch] text-soft">
        One file to mail, to put on a stick or to keep: whoever opens it has the page, with the model in it. It answers in their browser as the
        server does, and sends nothing anywhere. So you learn nothing of what is asked, and cannot take it back or change it later.
      </p>
      {plan.error && <p className="mt-2 text-alert">{faultText(plan.error)}</p>}
      {plan.isPending && isOpen && <p className="mt-2 text-soft">Weighing it…</p>}
      {plan.data?.obstacle && <p className="mt-2 max-w-[65ch]">{plan.data.obstacle}</p>}
      {plan.data && !plan.data.obstacle && <Offer slug={demo.slug} plan={plan.data} hasRows={chosen ?? plan.data.has_rows === true} onChoose={setChosen} />}
      {plan.data && !plan.data.obstacle && !demo.fields.some(isSeen) && <OwnPage demo={demo} />}
    </details>
  )
}

function Offer({ slug, plan, hasRows, onChoose }: { slug: string; plan: Plan; hasRows: boolean; onChoose: (hasRows: boolean) => void }) {
  const making = useTakeAway(slug)
  const make = () => making.mutate(hasRows, { onSuccess: (file) => handOver(file, `${slug}.html`) })
  return (
    <>
      <p className="mt-2">{plan.release === null ? 'Nothing is published yet: it would be the draft.' : `It would be version ${plan.release}, which visitors see.`}</p>
      <RowsAlong nRows={plan.n_rows ?? 0} nSample={plan.n_sample ?? 0} hasRows={hasRows} who="anybody who has the file" onChoose={onChoose} />
      {(plan.left_out ?? []).length > 0 && (
        <div className="mt-2 text-soft">
          <p id="left-out">What visitors’ page can do and the file cannot:</p>
          <ul aria-labelledby="left-out" className="list-disc pl-5">
            {(plan.left_out ?? []).map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </div>
      )}
      <p className="mt-2">
        About {weightText(plan.bytes ?? 0)}: {(plan.parts ?? []).map(({ name, bytes }) => `${PARTS[name]} ${weightText(bytes)}`).join(', ')}.
      </p>
      {plan.is_large && <p className="mt-1 text-caution">! Many mails take no more than 25 MB, and a phone may lack the memory for it. Fewer or smaller trees weigh less.</p>}
      <p className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <button type="button" className="button-plain" disabled={making.isPending} onClick={make}>
          Make the file
        </button>
        <a className="button-quiet" target="_blank" rel="noreferrer" href={`/api/v1/demos/${slug}/take-away?${new URLSearchParams({ ...rowsQuery(hasRows), show: '1' })}`}>
          Look at it first
        </a>
        <span role="status" className={making.error ? 'text-alert' : 'text-soft'}>
          {making.isPending ? 'Making it: reference answers are asked for, and what matters overall is worked out…' : making.error ? faultText(making.error) : making.isSuccess ? 'It is among your downloads.' : ''}
        </span>
      </p>
      <p className="mt-1 text-soft">Under “How far to trust it” it has a check: its reference answers, asked once more where it is opened.</p>
    </>
  )
}
