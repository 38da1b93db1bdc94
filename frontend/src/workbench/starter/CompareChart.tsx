/** Errors with their intervals, one line a model, guessing as a band behind all of them. */
import type { Comparison } from '../../api/client'
import { comparisonScale } from './comparisonScale'

export type ModelName = 'linear' | 'tree' | 'neighbours' | 'boosted'
type Tried = Comparison['tried'][number]

const GRID = 'grid grid-cols-[1.25rem_10rem_minmax(0,1fr)] items-center gap-x-3'
const NOTES: Record<Tried['candidate'], string> = {
  guess: 'knows nothing of the case',
  linear: 'each column adds its part',
  tree: 'a few questions, one after another',
  neighbours: 'what became of the most similar rows',
  boosted: 'hundreds of small trees',
}

interface CompareChartProps {
  compared: Comparison
  chosen: ModelName
  onChoose: (name: ModelName) => void
}

export function CompareChart({ compared, chosen, onChoose }: CompareChartProps) {
  const at = comparisonScale(compared)
  const guess = compared.tried.find(({ candidate }) => candidate === 'guess')
  return (
    <fieldset className="mt-5" data-testid="compared">
      <legend className="text-soft">{AXIS[compared.measure]}; lower is better. Lines say how surely that is known: 95 of 100 such lines hold the true value{compared.parted_by === 'time' ? ', as long as things go on as they did' : ''}.</legend>
      {compared.tried.map((one) => (
        <label key={one.candidate} className={`card-line ${GRID} py-2 ${one.candidate === 'guess' ? '' : 'cursor-pointer'}`}>
          {one.candidate === 'guess' ? <span /> : <input type="radio" name="model" className="size-4 accent-(--glass)" checked={chosen === one.candidate} onChange={() => onChoose(one.candidate as ModelName)} />}
          <span>
            <span className={one.candidate === chosen ? 'block font-bold' : 'block'}>{one.name}</span>
            <span className="block text-[0.86em] text-soft">{one.candidate === compared.offered ? 'offered: the plainest that is about as good as the best' : NOTES[one.candidate]}</span>
          </span>
          <span className="min-w-0">
            <Line one={one} guess={guess} at={at} isChosen={one.candidate === chosen} />
            <span className="block text-[0.93em] text-soft">
              {one.text}
              {one.candidate !== 'guess' && !one.is_better && <span className="text-caution"> ! not better than guessing, as far as this tells</span>}
            </span>
          </span>
        </label>
      ))}
    </fieldset>
  )
}

const AXIS: Record<Comparison['measure'], string> = {
  wrong: 'Of 100 rows, how many are said wrongly',
  missed: 'Of 100 rows of a class, how many are missed, all classes counting the same',
  off: 'How far off, on average',
}

const HEIGHT = 22

/** An interval as a hairline with a mark in its middle; the words below say the same. */
function Line({ one, guess, at, isChosen }: { one: Tried; guess: Tried | undefined; at: (error: number) => number; isChosen: boolean }) {
  const colour = one.candidate === 'guess' ? 'var(--ink)' : isChosen ? 'var(--glass)' : 'var(--edge)'
  const middle = HEIGHT / 2
  return (
    <svg className="drawn block w-full overflow-visible" height={HEIGHT} aria-hidden="true">
      {guess && <rect x={`${at(guess.low)}%`} width={`${at(guess.high) - at(guess.low)}%`} y="0" height={HEIGHT} fill="var(--line)" opacity="0.6" />}
      <line x1="0" x2="100%" y1={middle} y2={middle} stroke="var(--line)" />
      <line x1={`${at(one.low)}%`} x2={`${at(one.high)}%`} y1={middle} y2={middle} stroke={colour} strokeWidth={isChosen ? 3 : 2} />
      {[one.low, one.high].map((end) => (
        <line key={end} x1={`${at(end)}%`} x2={`${at(end)}%`} y1={middle - 5} y2={middle + 5} stroke={colour} strokeWidth={isChosen ? 3 : 2} />
      ))}
      <circle cx={`${at(one.error)}%`} cy={middle} r="5" fill={colour} />
    </svg>
  )
}
