/** Whether visitors ask about cases like those of the reference table: field by field, from counts alone. */
import { useState } from 'react'
import type { DemoState, DriftEntry } from '../../api/client'
import { groupedText, listText } from '../../domain/format'
import { Framed } from '../../parts/Framed'
import { Problem } from '../bench/Problem'
import { WorkedOut } from '../bench/WorkedOut'
import { useDrift } from './links'

export function DriftSheet({ demo }: { demo: DemoState }) {
  const [isOpen, setIsOpen] = useState(false)
  const { data, error, refetch } = useDrift(demo.slug, isOpen)
  const every = data ? [...data.answers, ...data.fields] : []
  const drifted = every.filter((one) => one.drifted)
  const cases = Math.max(0, ...every.map((one) => one.cases))
  return (
    <details className="card-line mt-5 pt-4" onToggle={(event) => setIsOpen(event.currentTarget.open)} data-testid="drift">
      <summary className="font-bold">Whether it is asked about what it knows</summary>
      <Problem error={error} />
      {data && (
        <>
          <p className="mt-1 max-w-[65ch]">
            {drifted.length > 0
              ? `Visitors’ cases of the last ${data.weeks} weeks lie elsewhere than the reference table in ${listText(drifted.map((one) => one.label))}. Look at its answers there, and whether it should be fitted anew.`
              : cases === 0
                ? 'No visitor has asked yet.'
                : `Going by ${groupedText(cases)} cases of the last ${data.weeks} weeks, no difference from the reference table is beyond chance and above 10 of 100.`}
          </p>
          {!data.answers_counted && (
            <div className="mt-1">
              <p className="max-w-[65ch]">
                Nothing is said of the answer: {data.can_be_counted ? 'asking this model how it usually answers takes too long here, or was not possible just now.' : 'its model stays in your own process, and asking it how it usually answers was not possible just now, or takes too long.'}
              </p>
              {data.can_be_counted && <WorkedOut slug={demo.slug} kind="drift" isDraft={false} label="Count its answers to the reference table" onDone={() => void refetch()} />}
            </div>
          )}
          <p className="max-w-[65ch] text-[0.93em] text-soft">
            Counted without keeping what anybody entered: only how many cases fell where. The share of cases that lie elsewhere is the total variation distance; whether it is chance is asked by a chi-square test, at 1 in 100 over all fields together.
          </p>
          <ul className="mt-1">
            {every.map((one) => (
              <Entry key={one.field ?? `answer ${one.label}`} one={one} />
            ))}
          </ul>
          {data.answers_counted && data.answers.length === 0 && <p className="card-line pt-2 text-soft">The answer is not counted: it has no classes, and no scale that known cases gave.</p>}
          {data.not_counted.length > 0 && <p className="card-line pt-2 text-soft">Not counted, because {data.not_counted.length === 1 ? 'it has' : 'they have'} no steps to count by: {data.not_counted.join(', ')}.</p>}
        </>
      )}
    </details>
  )
}

function Entry({ one }: { one: DriftEntry }) {
  return (
    <li className="card-line py-1.5">
      <details>
        <summary className="flex cursor-pointer flex-wrap gap-x-4">
          <span className={one.drifted ? 'font-bold' : ''}>{one.label}</span>
          <span className={one.drifted ? 'text-caution' : 'text-soft'}>
            {one.drifted && <span aria-hidden="true">! </span>}
            {one.finding}
          </span>
        </summary>
        {one.bins.length > 0 && (
          <Framed label={`${one.label}: where cases lie`}>
            <table className="mt-1 text-left">
              <thead>
                <tr className="text-soft">
                  <th className="pr-6 font-normal">{one.field === null ? 'Answer' : 'Value'}</th>
                  <th className="pr-6 text-right font-normal">table, of 100</th>
                  <th className="text-right font-normal">visitors, of 100</th>
                </tr>
              </thead>
              <tbody>
                {one.bins.map((bin) => (
                  <tr key={bin.name} className="border-t border-line">
                    <td className="py-0.5 pr-6">{bin.name}</td>
                    <td className="pr-6 text-right">{bin.reference}</td>
                    <td className="text-right">{bin.use}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Framed>
        )}
      </details>
    </li>
  )
}
