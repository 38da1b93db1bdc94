/** The known cases one by one: the page is filled in with each, its answer and what happened stand side by side. */
import { rowsText, shortened } from '../../domain/answerText'
import { useContext, useEffect, useState } from 'react'
import { type DemoState, type Inputs, type KnownCase } from '../../api/client'
import { kindsWords } from '../../domain/boxes'
import { groupedText, numberText, valueText } from '../../domain/format'
import { WHOLE } from '../../api/picture'
import { isSeen } from '../../domain/kinds'
import { saidShare } from '../../domain/saidClass'
import { ShowCase } from '../inputs/shownCase'
import { shrunk } from '../inputs/shrunk'
import { Problem } from '../bench/Problem'
import type { Draft } from '../bench/useDraft'
import { Thumbnail } from '../bench/Thumbnail'
import { CasesChooser } from './CasesChooser'
import { useKnownCase, useKnownPicture, type CasesWanted } from './queries'

const MOST_CASES = 20

interface KnownCasesProps {
  draft: Draft
  wanted: CasesWanted
  onWanted: (wanted: CasesWanted) => void
}

export function KnownCases({ draft, wanted, onWanted }: KnownCasesProps) {
  const { demo } = draft
  const hasRows = !demo.fields.some(isSeen)
  // Of other cases the first comes first.
  const [place, setPlace] = useState({ at: 0, of: wanted })
  const at = place.of === wanted ? place.at : 0
  // The first press shows the first case on the page.
  const [isStepping, setIsStepping] = useState(false)
  const show = useContext(ShowCase)
  const found = useKnownCase(demo.slug, wanted, at)
  const total = found.data?.total ?? 0
  const one = found.isPlaceholderData ? undefined : found.data?.cases[0]
  const step = (by: number) => {
    setIsStepping(true)
    if (isStepping) setPlace({ at: Math.min(Math.max(0, total - 1), Math.max(0, at + by)), of: wanted })
  }
  useStepKeys(step)
  // The page is filled in once the author steps: what stands in it may be something they were just trying.
  const picture = useKnownPicture(demo.slug, hasRows ? undefined : one?.row)
  const field = demo.fields.find(isSeen)
  useEffect(() => {
    if (!one || !isStepping) return
    if (hasRows) show(one.inputs as Inputs)
    else if (picture.data && field) show({ [field.name]: { file: picture.data, cut: WHOLE, turn: 0 } })
  }, [one, hasRows, picture.data, field, isStepping, show])
  return (
    <section id="known-cases" className="card-line mt-5 scroll-mt-4 pt-4" aria-labelledby="known-heading" data-testid="known-cases">
      <h3 id="known-heading" className="font-bold">
        Known cases, one by one
      </h3>
      <CasesChooser demo={demo} wanted={wanted} onWanted={onWanted} />
      <Problem error={found.error} />
      {found.data && total === 0 && <p className="mt-2">There are none of these.</p>}
      {total > 0 && (
        <>
          <p className="mt-2 flex flex-wrap items-baseline gap-x-5">
            <button type="button" className="button-plain" disabled={at === 0} onClick={() => step(-1)}>
              The one before
            </button>
            <button type="button" className="button-plain" disabled={isStepping && at >= total - 1} onClick={() => step(1)}>
              {isStepping ? 'The next one' : 'Show it on the page'}
            </button>
            <span role="status">
              {groupedText(at + 1)} of {groupedText(total)}
            </span>
            <span className="text-soft">or press N and Shift+N</span>
          </p>
          {one && <OneCase key={one.row} draft={draft} one={one} hasRows={hasRows} picture={picture.data} isFilledIn={isStepping} />}
        </>
      )}
    </section>
  )
}

/** N for the next case, Shift+N for the one before, unless something is being typed. */
function useStepKeys(step: (by: number) => void) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const into = event.target as HTMLElement
      if (event.key.toLowerCase() !== 'n' || event.ctrlKey || event.metaKey || event.altKey || into.closest('input, textarea, select, [contenteditable]')) return
      event.preventDefault()
      step(event.shiftKey ? -1 : 1)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  })
}

function OneCase({ draft, one, hasRows, picture, isFilledIn }: { draft: Draft; one: KnownCase; hasRows: boolean; picture: Blob | undefined; isFilledIn: boolean }) {
  const { demo } = draft
  const [problem, setProblem] = useState<unknown>(null)
  const samples = demo.samples ?? []
  const title = `${one.name ?? `Row ${one.row + 1}`}: ${truthText(demo, one)}`.slice(0, 200)
  const isTaken = samples.some((sample) => (hasRows ? JSON.stringify(sample.inputs) === JSON.stringify(one.inputs) : sample.title === title))
  const take = async () => {
    try {
      const inputs = (hasRows ? one.inputs : await pictured(demo, picture)) as Record<string, never>
      await draft.save((now) => ({ samples: [...(now.samples ?? []), { title, inputs }] }))
      setProblem(null)
    } catch (error) {
      setProblem(error instanceof Error ? error : new Error('Could not be saved. Try again.'))
    }
  }
  return (
    <div className="mt-3">
      {picture && <Thumbnail file={picture} name={one.name ?? ''} className="mb-2 max-h-40 max-w-60 object-contain" />}
      <dl className="grid w-fit grid-cols-[auto_1fr] gap-x-6 gap-y-0.5">
        <dt className="text-soft">{one.name ? 'Picture' : 'Row of the table'}</dt>
        <dd>{one.name ?? one.row + 1}</dd>
        <dt className="text-soft">It answers</dt>
        <dd className="font-bold">{answeredText(demo, one)}</dd>
        <dt className="text-soft">What happened</dt>
        <dd className={`font-bold ${one.is_right === false ? 'text-caution' : ''}`}>
          {truthText(demo, one)}
          {one.is_right !== null && <span className="font-normal">{one.is_right ? ' ✓ right' : ' ! wrong'}</span>}
        </dd>
      </dl>
      {hasRows && (
        <>
          <p className="mt-2 text-soft">{isFilledIn ? 'The page on the right shows this case.' : ''}</p>
          <details className="mt-1">
            <summary className="button-quiet w-fit">Its values</summary>
            <dl className="mt-1 grid w-fit grid-cols-[auto_1fr] gap-x-6">
              {demo.fields.map((field) => (
                <div key={field.name} className="contents">
                  <dt className="text-soft">{field.label}</dt>
                  <dd>{valueText(field, (one.inputs as Inputs)[field.name])}</dd>
                </div>
              ))}
            </dl>
          </details>
        </>
      )}
      {(hasRows || picture) && (
        <p className="mt-2">
          <button type="button" className="button-quiet" disabled={isTaken || samples.length >= MOST_CASES} onClick={() => void take()}>
            {isTaken ? 'Is a ready case' : 'Make it a ready case'}
          </button>
        </p>
      )}
      <Problem error={problem} />
    </div>
  )
}

/** A case with a picture, as ready cases have it. */
async function pictured(demo: DemoState, picture: Blob | undefined): Promise<Record<string, unknown>> {
  const field = demo.fields.find(isSeen)
  return field && picture ? { [field.name]: { data: await shrunk(picture) } } : {}
}

function answeredText(demo: DemoState, { answer }: KnownCase): string {
  switch (answer.kind) {
    case 'class': {
      const label = (demo.answer.kind === 'class' && demo.answer.classes.find((one) => one.name === answer.class)?.label) || answer.class
      const share = saidShare(answer)
      return share ? `${label}, ${share.of_100} of 100` : label
    }
    case 'number':
      return `${answer.text} ${answer.unit}`.trim()
    case 'numbers':
      return answer.values.map((one) => `${one.name} ${one.text} ${one.unit}`.trim()).join('; ')
    case 'labels':
      return answer.labels.filter((one) => one.applies).map((one) => one.label).join('; ') || 'none applies'
    case 'picture':
      return 'a picture'
    case 'mask':
      return answer.kinds.map((kind) => `${kind.label} ${kind.of_100} of 100`).join('; ')
    case 'text':
      return shortened(answer.text)
    case 'table':
      return rowsText(answer.rows.length)
    case 'boxes':
      return kindsWords(answer.boxes, demo.answer) || 'nothing found'
  }
}

function truthText(demo: DemoState, { truth }: KnownCase): string {
  const { answer } = demo
  // To as many decimals as the answer beside it.
  const rounded = (value: number, decimals = 2) => numberText(Number(value.toFixed(decimals)))
  if (typeof truth === 'number') return answer.kind === 'number' ? `${rounded(truth, answer.decimals)} ${answer.unit}`.trim() : numberText(truth)
  if (typeof truth === 'string') return (answer.kind === 'class' && answer.classes.find((one) => one.name === truth)?.label) || truth
  const parts = Object.entries(truth).filter(([, value]) => value !== null && value !== false)
  return parts.map(([name, value]) => (value === true ? name : `${name} ${rounded(Number(value), answer.kind === 'numbers' ? answer.values.find((one) => one.name === name)?.decimals : undefined)}`)).join('; ') || 'none applies'
}
