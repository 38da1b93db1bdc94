/** Another model or table beside the one there is: what differs, case by case too, before anything is taken over. */
import { useContext, useState } from 'react'
import type { DemoState, Inputs } from '../../api/client'
import { WHOLE } from '../../api/picture'
import { numberText } from '../../domain/format'
import { isSeen } from '../../domain/kinds'
import { Framed } from '../../parts/Framed'
import { fetchKnownPicture } from '../checks/queries'
import { ShowCase } from '../inputs/shownCase'
import { answersWords, type AnswerDifferences, type Differences } from './differenceWords'

type Example = NonNullable<AnswerDifferences['examples']>[number]

interface ComparisonProps {
  demo: DemoState
  /** What is looked at, by name. */
  files: string
  found: Differences
  isBusy: boolean
  /** With what each feature was called before, by what it is called now. */
  onTake: (renames: Record<string, string>) => void
  onLeave: () => void
}

export function Comparison({ demo, files, found, isBusy, onTake, onLeave }: ComparisonProps) {
  const { features, classes, answers } = found
  const [renames, setRenames] = useState<Record<string, string>>(() => Object.fromEntries((features?.renamed ?? []).map(([before, after]) => [after, before])))
  const added = features?.added ?? []
  const gone = (features?.gone ?? []).filter((name) => !Object.values(renames).includes(name))
  return (
    <section className="mt-3 border-l-3 border-glass pl-4" aria-labelledby="comparison-heading" data-testid="comparison">
      <h4 id="comparison-heading" className="font-bold">
        What {files} would change
      </h4>
      <ul className="mt-1 space-y-1">
        {added.map((name) => (
          <li key={name}>
            <label>
              New: <code className="font-sans">{name}</code>{' '}
              {(features?.gone ?? []).length > 0 && (
                <select
                  className="border-b border-edge bg-paper py-0.5"
                  aria-label={`What ${name} was called before`}
                  value={renames[name] ?? ''}
                  onChange={(event) => setRenames(withRename(renames, name, event.target.value))}
                >
                  <option value="">was not there before</option>
                  {(features?.gone ?? []).map((before) => (
                    <option key={before} value={before}>
                      was called {before}
                    </option>
                  ))}
                </select>
              )}
            </label>
          </li>
        ))}
        {gone.length > 0 && <li>Gone, with what was set of {gone.length === 1 ? 'it' : 'them'}: {gone.join(', ')}.</li>}
        {(features?.changed ?? []).length > 0 && <li>Of another kind or with other options: {features?.changed?.join(', ')}.</li>}
        {(features?.ranges ?? []).map((one) => (
          <li key={one.field} className="text-soft">
            {one.field}: from {numberText(one.before[0])} to {numberText(one.before[1])} before, from {numberText(one.after[0])} to {numberText(one.after[1])} now.
          </li>
        ))}
        {(classes?.added?.length || classes?.gone?.length) ? <li>Classes: {classes.added?.join(', ') || 'none'} new, {classes.gone?.join(', ') || 'none'} gone.</li> : null}
        {classes?.order_changed && <li className="text-caution">! The classes stand in another order.</li>}
        <li className="font-bold">{answersWords(answers)}</li>
      </ul>
      {(answers?.examples ?? []).length > 0 && <Examples demo={demo} examples={answers?.examples ?? []} changed={answers?.changed ?? 0} />}
      <p className="mt-3 flex flex-wrap items-baseline gap-x-5">
        <button type="button" className="button-primary" disabled={isBusy} onClick={() => onTake(renames)}>
          Take it over
        </button>
        <button type="button" className="button-quiet" disabled={isBusy} onClick={onLeave}>
          Leave all as it is
        </button>
        <span className="text-soft">Visitors keep the version they see until you publish.</span>
      </p>
    </section>
  )
}

/** Cases that get another answer, each to be looked at on the page as it is now. */
function Examples({ demo, examples, changed }: { demo: DemoState; examples: Example[]; changed: number }) {
  const show = useContext(ShowCase)
  const picture = demo.fields.find(isSeen)
  const showCase = async (one: Example) => {
    if (!picture) return show(one.inputs as Inputs)
    const file = await fetchKnownPicture(demo.slug, one.at).catch(() => null)
    if (file) show({ [picture.name]: { file, cut: WHOLE, turn: 0 } })
  }
  const textOf = (value: string | number) =>
    typeof value === 'number' ? numberText(Number(value.toPrecision(6))) : (demo.answer.kind === 'class' && demo.answer.classes.find((one) => one.name === value)?.label) || value
  return (
    <details className="mt-1">
      <summary className="button-quiet w-fit">
        {examples.length < changed ? `The first ${examples.length} of ${changed}` : 'Those'} with another answer
      </summary>
      <Framed label="Cases with another answer">
        <table className="mt-1 text-left">
          <thead>
            <tr className="text-soft">
              <th className="pr-5 font-normal">now</th>
              <th className="pr-5 font-normal">would be</th>
              <th className="pr-5 font-normal">what happened</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {examples.map((one) => (
              <tr key={one.at} className="border-t border-line">
                <td className="pr-5">{textOf(one.before)}</td>
                <td className={`pr-5 ${one.verdict === 'worse' ? 'text-caution' : ''}`}>
                  {textOf(one.after)}
                  {one.verdict !== 'changed' && <span className="text-soft"> {one.verdict === 'better' ? '✓ better' : '! worse'}</span>}
                </td>
                <td className="pr-5">{one.truth === null || one.truth === undefined ? 'not known' : textOf(one.truth)}</td>
                <td>
                  <button type="button" className="button-quiet min-h-6" onClick={() => void showCase(one)}>
                    Show it<span className="sr-only"> on the page, case {one.at + 1}</span>
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Framed>
    </details>
  )
}

/** A feature had one name before, and one that went became one feature only. */
function withRename(renames: Record<string, string>, now: string, before: string): Record<string, string> {
  const others = Object.entries(renames).filter(([name, was]) => name !== now && was !== before)
  return Object.fromEntries(before ? [...others, [now, before]] : others)
}
