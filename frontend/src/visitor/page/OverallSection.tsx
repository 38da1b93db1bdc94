/** What matters overall: each field's importance, and for one that is opened its direction and its average curve. */
import { useQuery } from '@tanstack/react-query'
import { lazy, memo, Suspense, useState } from 'react'
import { api, expectData, type Overall, type OverallField, type Page } from '../../api/client'
import { amountOfAMark, Tally } from '../../parts/Tally'
import { nameOf, scaleOf, type Scale } from '../../domain/why'
import { groupedText } from '../../domain/format'

const FieldOnAverage = lazy(() => import('./FieldOnAverage'))

const ASK_AGAIN_MS = 700
const SHOWN = 12
/** Of the words' unit: what marks stand for at the least, and how many a row has at the most. */
const SMALLEST_AMOUNT = 0.1
const MOST_MARKS = 25

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
    queryKey: ['overall', page.slug, isDraft, page.release, about],
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
    <section data-setting="parts" aria-label="What matters overall" className="card-line mt-10 max-w-[70ch] pt-5 print:hidden">
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
        How much each field adds to the answer for “{nameOf(page.answer, overall.of)}” or takes off it, on average over {groupedText(overall.n_rows)} cases from the
        author’s table. {isCounted && `One mark is ${`${amount === 1 ? 'one' : amount} ${amount === 1 && scale.unit === 'points' ? 'point' : scale.unit}`.trim()}.`} Open a field to see in
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
          <Suspense>
            <FieldOnAverage field={field} one={one} scale={scale} />
          </Suspense>
        </div>
      </details>
    </li>
  )
}

/** "12 points", "3.1 kWh". */
function amountWords(value: number, scale: Scale): string {
  return `${(value * scale.factor).toFixed(scale.factor === 100 ? 1 : scale.decimals)} ${scale.unit}`.trim()
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
