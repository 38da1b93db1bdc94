/** The chart of a case among those of the author's table. */
import { scaleLinear } from 'd3-scale'
import { useState, type KeyboardEvent, type PointerEvent } from 'react'
import { type Among, type Field, type Inputs, type Page } from '../../api/client'
import { valueText } from '../../domain/format'
import { ofHundred } from '../../domain/ofHundred'
import { InlineMark, Mark, markOf } from '../../parts/Mark'
import { columnsOf, dotsOf, lowerOf100, moved, placeOf, wholeView, zoomed, type View } from '../../domain/among'
import { answerWords, scaleOf } from '../../domain/why'
import { AmongTable, placeText } from './AmongTable'

const WIDTH = 640
const HEIGHT = 260
const EDGE = 12
/** A drag shorter than this is a slip of the hand, in pixels of the chart. */
const SHORTEST_DRAG = 12

interface AmongChartProps {
  page: Page
  field: Field
  among: Among
  inputs: Inputs
  mine: number | null
}

export function AmongChart({ page, field, among, inputs, mine }: AmongChartProps) {
  const value = inputs[field.name]
  const whole = wholeView(field, among, value ?? null)
  const [view, setView] = useState<View>(whole)
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null)
  const scale = scaleOf(page.answer, among.of)
  const dots = dotsOf(field, among, view)
  const all = [...dots.map((dot) => dot.y), ...(mine === null ? [] : [mine])]
  const isProbability = scale.factor === 100
  const low = isProbability ? 0 : Math.min(...all)
  const high = isProbability ? Math.max(0.2, ...all) : Math.max(...all)
  const across = scaleLinear([0, 1], [EDGE, WIDTH - EDGE])
  const down = scaleLinear([low, high], [HEIGHT - EDGE, EDGE])
  const placeAt = scaleLinear([EDGE, WIDTH - EDGE], [view.from, view.to]).clamp(true)
  const place = placeOf(field, value)
  const here = place === null ? null : (place - view.from) / (view.to - view.from)
  const around = place !== null && place >= view.from && place <= view.to ? place : (view.from + view.to) / 2
  const zoom = (closer: boolean) => setView(zoomed(view, whole, around, closer))
  const canZoom = field.kind === 'number'
  const isWhole = view.from <= whole.from && view.to >= whole.to
  const words = amongWords(field, among, inputs)

  const onKeyDown = (event: KeyboardEvent) => {
    const act = { '+': () => zoom(true), '=': () => zoom(true), '-': () => zoom(false), ArrowLeft: () => setView(moved(view, whole, -1)), ArrowRight: () => setView(moved(view, whole, 1)), '0': () => setView(whole) }[event.key]
    if (!canZoom || !act) return
    event.preventDefault()
    act()
  }
  const shareOf = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect()
    return ((event.clientX - box.left) / box.width) * WIDTH
  }
  const onUp = () => {
    if (drag && Math.abs(drag.to - drag.from) >= SHORTEST_DRAG) {
      setView({ from: placeAt(Math.min(drag.from, drag.to)), to: placeAt(Math.max(drag.from, drag.to)) })
    }
    setDrag(null)
  }
  return (
    <div className="mt-2">
      <p className="text-[0.92em]">{words}</p>
      <div className="mt-2 flex gap-x-2 text-[0.82em] text-soft">
        <div className="flex w-14 shrink-0 flex-col justify-between text-right" aria-hidden="true">
          <span>{answerWords(high, scale)}</span>
          <span>{answerWords(low, scale)}</span>
        </div>
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className="min-w-0 flex-1 touch-pan-y border-b border-l border-edge"
          role="img"
          aria-label={`${words} Below it the chart can be read as a table.`}
          tabIndex={canZoom ? 0 : undefined}
          onKeyDown={onKeyDown}
          onPointerDown={(event) => {
            if (!canZoom) return
            event.currentTarget.setPointerCapture(event.pointerId)
            setDrag({ from: shareOf(event), to: shareOf(event) })
          }}
          onPointerMove={(event) => drag && setDrag({ ...drag, to: shareOf(event) })}
          onPointerUp={onUp}
          onPointerCancel={() => setDrag(null)}
        >
          {drag && <rect x={Math.min(drag.from, drag.to)} width={Math.abs(drag.to - drag.from)} y="0" height={HEIGHT} fill="var(--glass-pale)" />}
          <g opacity="0.6">
            {dots.map((dot, at) => (
              <Mark key={at} {...dotMark(page, dot.outcome)} x={across(dot.across)} y={down(dot.y)} radius={3.5} />
            ))}
          </g>
          {here !== null && mine !== null && here >= 0 && here <= 1 && (
            <>
              <line x1={across(here)} x2={across(here)} y1={down(mine)} y2={HEIGHT} stroke="var(--ink)" strokeDasharray="2 4" />
              <circle cx={across(here)} cy={down(mine)} r="9" fill="var(--paper)" stroke="var(--ink)" strokeWidth="3" />
              <circle cx={across(here)} cy={down(mine)} r="3" fill="var(--ink)" />
            </>
          )}
        </svg>
      </div>
      <AcrossAxis field={field} view={view} />
      <div className="mt-2 flex flex-wrap gap-2 text-[0.88em] print:hidden">
        {canZoom && (
          <>
            <button type="button" className="button-plain py-0.5" onClick={() => zoom(true)}>
              Closer
            </button>
            <button type="button" className="button-plain py-0.5" aria-disabled={isWhole} onClick={() => zoom(false)}>
              Further
            </button>
            <button type="button" className="button-plain py-0.5" aria-disabled={isWhole} onClick={() => setView(whole)}>
              All of it
            </button>
          </>
        )}
      </div>
      <p className="mt-2 text-[0.82em] text-soft">
        Each mark is one of {among.x.length} cases from the author’s table. The large ring is yours. {canZoom && 'Drag across the chart to look closer.'}
      </p>
      {among.outcomes && page.answer.kind === 'class' && <Key page={page} outcomes={among.outcomes} />}
      <AmongTable page={page} field={field} among={among} />
    </div>
  )
}

/** What happened to a case is told by its mark. */
function Key({ page, outcomes }: { page: Page; outcomes: (string | number | null)[] }) {
  const names = page.answer.kind === 'class' ? page.answer.classes.filter((wording) => outcomes.some((one) => String(one) === wording.name)) : []
  return (
    <ul className="flex flex-wrap gap-x-4 text-[0.82em] text-soft" aria-label="What the marks say">
      {names.map((wording) => (
        <li key={wording.name} className="flex items-baseline gap-1.5">
          <InlineMark {...dotMark(page, wording.name)} /> {wording.label}
        </li>
      ))}
    </ul>
  )
}

function AcrossAxis({ field, view }: { field: Field; view: View }) {
  const columns = columnsOf(field)
  return (
    <div className="ml-16 flex justify-between text-[0.82em] text-soft" aria-hidden="true">
      {columns.length > 0 ? (
        columns.map((column) => (
          <span key={String(column.value)} className="min-w-0 flex-1 truncate text-center">
            {column.label}
          </span>
        ))
      ) : (
        <>
          <span>{placeText(field, view.from)}</span>
          <span>{field.label}</span>
          <span>{placeText(field, view.to)}</span>
        </>
      )}
    </div>
  )
}

/** "Your Wall thickness, 14 mm, is higher than in 91 of 100 reference cases." */
function amongWords(field: Field, among: Among, inputs: Inputs): string {
  const lower = lowerOf100(among, inputs[field.name])
  const mine = `Your ${field.label}, ${valueText(field, inputs[field.name])},`
  if (lower !== null) return `${mine} is ${field.kind === 'number' && field.calendar ? 'later' : 'higher'} than in ${lower} of 100 cases of the author’s table.`
  const count = among.x.filter((x) => x === inputs[field.name]).length
  return `${mine} is the same as in ${ofHundred(count / Math.max(1, among.x.length))} of 100 cases of the author’s table.`
}

function dotMark(page: Page, outcome: string | number | null) {
  if (page.answer.kind !== 'class' || outcome === null) return { shape: 'ring', colour: 'var(--glass)' } as const
  const index = page.answer.classes.findIndex((wording) => wording.name === String(outcome))
  return markOf(index, page.answer.classes[index])
}
