/** What matters overall: each field's importance, and for one that is opened its direction and its average curve. */
import { useQuery } from '@tanstack/react-query'
import { memo, useState } from 'react'
import { api, expectData, type Field, type InputValue, type Overall, type OverallField, type Page } from '../api/client'
import { numberText, valueText } from '../parts/format'
import { amountOfAMark, Tally } from '../parts/Tally'
import { answerWords, nameOf, pushOf, scaleOf, type Scale } from './why'
import { Framed } from '../parts/Framed'

const ASK_AGAIN_MS = 700
const SHOWN = 12
/** Of the words' unit: what marks stand for at the least, and how many a row has at the most. */
const SMALLEST_AMOUNT = 0.1
const MOST_MARKS = 25
const WIDTH = 600
const HEIGHT = 160

export interface OverallSectionProps {
  page: Page
  isDraft: boolean
  /** The class, or the number, that is looked at first. */
  of: string
}

export default memo(function OverallSection({ page, isDraft, of }: OverallSectionProps) {
  const [isOpen, setIsOpen] = useState(false)
  const [chosen, setChosen] = useState<string | null>(null)
  const about = chosen ?? of
  const overall = useQuery({
    queryKey: ['overall', page.slug, isDraft, about],
    enabled: isOpen,
    queryFn: () =>
      expectData(
        api.GET('/api/v1/demos/{slug}/overall', {
          params: { path: { slug: page.slug }, query: { of: about, ...(isDraft ? { draft: '1' } : {}) } },
        }),
      ),
    // The server works it out while nobody asks for answers, and says what it knows so far.
    refetchInterval: (query) => ((query.state.data?.share_done ?? 1) < 1 ? ASK_AGAIN_MS : false),
  })
  const outputs = page.answer.kind === 'class' ? page.answer.classes : page.answer.kind === 'labels' ? page.answer.labels : []
  return (
    <section aria-label="What matters overall" className="card-line mt-10 max-w-[70ch] pt-5 print:hidden">
      <details open={isOpen} onToggle={(event) => setIsOpen(event.currentTarget.open)}>
      <summary className="w-fit font-bold">What matters overall</summary>
      {outputs.length > 1 && (
        <label className="mt-2 block text-[0.92em] text-soft">
          for{' '}
          <select className="border-b border-edge bg-paper py-0.5 text-ink" value={about} onChange={(event) => setChosen(event.target.value)}>
            {outputs.map((wording) => (
              <option key={wording.name} value={wording.name}>
                {wording.label}
              </option>
            ))}
          </select>
        </label>
      )}
      {overall.isError && <p className="mt-2 text-soft">{overall.error.message}</p>}
      {overall.data && <OverallList page={page} overall={overall.data} />}
      </details>
    </section>
  )
})

function OverallList({ page, overall }: { page: Page; overall: Overall }) {
  const [isAll, setIsAll] = useState(false)
  const scale = scaleOf(page.answer, overall.of)
  const largest = Math.max(...overall.fields.map((one) => one.importance[0] ?? 0))
  // Nothing counted yet is not nothing.
  const isCounted = overall.share_done >= 1 || largest > 0
  const amount = amountOfAMark(largest * scale.factor || 1, MOST_MARKS, SMALLEST_AMOUNT)
  const shown = isAll ? overall.fields : overall.fields.slice(0, SHOWN)
  return (
    <>
      <p className="mt-2 text-[0.92em] text-soft">
        How much each field adds to the answer for “{nameOf(page.answer, overall.of)}” or takes off it, on average over {overall.n_rows} cases from the
        author’s table. {isCounted && `One mark is ${amount === 1 ? 'one' : amount} ${amount === 1 && scale.unit === 'points' ? 'point' : scale.unit}.`} Open a field to see in
        which direction, and how sure that is.
      </p>
      {overall.share_done < 1 && (
        <p className="mt-1 text-[0.88em]" role="status">
          Still counting: {Math.round(overall.share_done * 100)} of 100 done.{!isCounted && ' The fields stand here once the first cases are counted.'}
        </p>
      )}
      <ul className="mt-2">
        {isCounted && shown.map((one) => <FieldOverall key={one.field} page={page} one={one} scale={scale} amount={amount} />)}
      </ul>
      {isCounted && overall.fields.length > SHOWN && (
        <button type="button" className="button-quiet mt-2 text-[0.92em]" onClick={() => setIsAll(!isAll)}>
          {isAll ? 'Show fewer' : `Show all ${overall.fields.length}`}
        </button>
      )}
    </>
  )
}

interface FieldOverallProps {
  page: Page
  one: OverallField
  scale: Scale
  /** What one mark stands for, in the words' unit. */
  amount: number
}

function FieldOverall({ page, one, scale, amount }: FieldOverallProps) {
  const field = page.fields.find((item) => item.name === one.field)
  const [mean = 0, low = 0, high = 0] = one.importance
  if (!field) return null
  return (
    <li className="card-line">
      <details>
        <summary className="grid grid-cols-[minmax(0,4fr)_minmax(0,5fr)_auto] items-center gap-3 py-1.5">
          <span className="min-w-0 truncate">{field.label}</span>
          <span className="text-glass">
            <Tally count={Math.round((mean * scale.factor) / amount)} shape="diamond" />
          </span>
          <span className="min-w-[7em] text-right text-[0.92em]">{amountWords(mean, scale)}</span>
        </summary>
        <div className="pb-3 pl-1 text-[0.92em]">
          <p className="text-soft">
            With more cases it would come out between {amountWords(low, scale)} and {amountWords(high, scale)}, 95 of 100 times.
          </p>
          {one.shuffled && <p className="text-soft">{shuffledWords(one.shuffled, page, scale)}</p>}
          {one.parts.length > 0 && <DirectionTable field={field} one={one} scale={scale} />}
          {one.x.length > 1 && field.kind === 'number' && <AverageCurve field={field} one={one} scale={scale} />}
        </div>
      </details>
    </li>
  )
}

function DirectionTable({ field, one, scale }: { field: Field; one: OverallField; scale: Scale }) {
  return (
    <Framed label={`${field.label}, as a table`}>
    <table className="mt-2 w-full text-left">
      <thead>
        <tr className="text-soft">
          <th className="py-1 font-normal">With</th>
          <th className="py-1 text-right font-normal">Typically</th>
          <th className="py-1 text-right font-normal">Half of the cases</th>
        </tr>
      </thead>
      <tbody>
        {one.parts.map((part) => {
          const [middle = 0, low = 0, high = 0] = part.spread
          return (
            <tr key={`${part.words} ${part.low}`} className="border-t border-line">
              <td className="py-1">
                {part.words === 'option'
                  ? valueText(field, part.low as InputValue)
                  : `${PART_WORDS[part.words]}: ${numberText(Number(part.low))} to ${valueText(field, part.high as InputValue)}`}
              </td>
              <td className={`py-1 text-right ${middle > 0 ? 'text-raise' : 'text-lower'}`}>{signed(middle, scale)}</td>
              <td className="py-1 text-right text-soft">
                {pushOf(low, scale).short} to {pushOf(high, scale).short}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
    </Framed>
  )
}

const PART_WORDS = { low: 'low values', middle: 'middle values', high: 'high values', option: '' }

/** The mean of the cases' curves, with the middle half of them. */
function AverageCurve({ field, one, scale }: { field: Field; one: OverallField; scale: Scale }) {
  const x = one.x as number[]
  const [from, to] = [x[0] ?? 0, x.at(-1) ?? 1]
  const all = one.y.flat()
  const low = scale.factor === 100 ? 0 : Math.min(...all)
  const high = Math.max(...all)
  const across = (value: number) => ((value - from) / (to - from || 1)) * WIDTH
  const down = (value: number) => HEIGHT - ((value - low) / (high - low || 1)) * (HEIGHT - 8) - 4
  const line = (part: 0 | 1 | 2) => one.y.map((spread, at) => `${across(x[at] ?? 0).toFixed(1)} ${down(spread[part] ?? 0).toFixed(1)}`)
  const first = one.y[0]?.[0] ?? 0
  const last = one.y.at(-1)?.[0] ?? 0
  const words = `Average answer ${answerWords(first, scale)} at ${numberText(from)}, ${answerWords(last, scale)} at ${numberText(to)}.`
  return (
    <figure className="mt-3">
      <figcaption className="text-soft">{words} The band holds the middle half of the cases.</figcaption>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={words} className="mt-1 w-full border-b border-edge">
        <path d={`M${line(1).join(' L')} L${line(2).reverse().join(' L')} Z`} fill="var(--glass-pale)" />
        <path d={`M${line(0).join(' L')}`} fill="none" stroke="var(--glass)" strokeWidth="2.5" />
      </svg>
      <div className="flex justify-between text-[0.9em] text-soft" aria-hidden="true">
        <span>{numberText(from)}</span>
        <span>{valueText(field, to)}</span>
      </div>
    </figure>
  )
}

/** "12 points", "3.1 kWh". */
function amountWords(value: number, scale: Scale): string {
  return `${(value * scale.factor).toFixed(scale.factor === 100 ? 1 : scale.decimals)} ${scale.unit}`.trim()
}

function signed(value: number, scale: Scale): string {
  const push = pushOf(value, scale)
  return push.direction === 'none' ? '0' : `${push.direction === 'up' ? '▲' : '▼'} ${push.short}`
}

/** What shuffling the field did to the model on known cases. */
function shuffledWords(shuffled: number[], page: Page, scale: Scale): string {
  const [rise = 0, low = 0, high = 0] = shuffled
  if (page.answer.kind === 'class') {
    const of100 = (value: number) => (value * 100).toFixed(1)
    return `With its values shuffled the model is wrong about ${of100(rise)} more of 100 known ${page.answer.noun} (${of100(low)} to ${of100(high)}).`
  }
  const amount = (value: number) => (value * scale.factor).toFixed(scale.decimals)
  return `With its values shuffled the model is off by ${amount(rise)} ${scale.unit} more on known cases (${amount(low)} to ${amount(high)}).`
}
