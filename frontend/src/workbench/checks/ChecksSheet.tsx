/** The checks: each comes in as it ends, what stands in the way of publishing first, with the way on. */
import { Link } from 'wouter'
import type { CheckResult, DemoState } from '../../api/client'
import { Problem } from '../bench/Problem'
import { CheckFigures } from './CheckFigures'
import { figuresOf } from './figuresOf'
import { useChecks } from './useChecks'

const NAMES: Record<CheckResult['name'], string> = {
  features: 'What the model takes',
  'same-as-original': 'The same as its library',
  'same-as-expected': 'The same as your notebook',
  'class-order': 'Names of classes',
  'every-field': 'Every field counts',
  report: 'Better than guessing',
  calibration: 'Probabilities come true',
  leakage: 'Nothing gives the outcome away',
  ranges: 'Ranges of controls',
  repeatable: 'The same case, the same answer',
  'bad-input': 'Answers at every edge',
  speed: 'Speed',
  size: 'Size',
  versions: 'Versions',
  preparation: 'Preparation of pictures',
  reading: 'Reading of the answer',
  words: 'Words',
  readable: 'What the page says of itself',
}
const SIGNS: Record<CheckResult['status'], { sign: string; word: string; look: string }> = {
  fail: { sign: '✕', word: 'fails', look: 'text-alert' },
  warn: { sign: '!', word: 'look at it', look: 'text-caution' },
  pass: { sign: '✓', word: 'passes', look: 'text-calm' },
  skip: { sign: '–', word: 'not checked', look: 'text-soft' },
}
const ORDER: CheckResult['status'][] = ['fail', 'warn', 'pass', 'skip']

export function ChecksSheet({ demo }: { demo: DemoState }) {
  const { data: results = [], isFetching, error, refetch } = useChecks(demo.slug)
  const shown = [...results].sort((a, b) => ORDER.indexOf(a.status) - ORDER.indexOf(b.status))
  return (
    <section aria-labelledby="checks-heading" data-testid="checks">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h2 id="checks-heading" className="text-[1.25em] font-bold">
          Checks
        </h2>
        <p role="status" className="flex-1 text-soft">
          {isFetching ? `${results.length} of ${Object.keys(NAMES).length} are done …` : summaryOf(results)}
        </p>
        <button type="button" className="button-plain" disabled={isFetching} onClick={() => void refetch()}>
          Check again
        </button>
      </div>
      <Problem error={error} />
      <ul className="mt-2">
        {shown.map((one) => (
          <OneCheck key={one.name} one={one} demo={demo} />
        ))}
      </ul>
    </section>
  )
}

function OneCheck({ one, demo }: { one: CheckResult; demo: DemoState }) {
  const { sign, word, look } = SIGNS[one.status]
  const figures = figuresOf(one, demo.fields)
  const isQuiet = one.status === 'pass' || one.status === 'skip'
  return (
    <li className="grid grid-cols-[1.5rem_minmax(0,11rem)_minmax(0,1fr)] gap-x-2 border-t border-line py-1.5" data-status={one.status}>
      <span className={`font-bold ${look}`}>
        <span aria-hidden="true">{sign}</span>
        <span className="sr-only">{word}:</span>
      </span>
      <span className={isQuiet ? '' : 'font-bold'}>{NAMES[one.name]}</span>
      <span className={isQuiet ? 'text-soft' : ''}>
        {one.finding}
        {one.fix && (
          <>
            {' '}
            <Link className="button-quiet" href={`/demos/${demo.slug}/${one.fix.place}`}>
              {one.fix.text}
            </Link>
          </>
        )}
        {figures && <CheckFigures figures={figures} />}
      </span>
    </li>
  )
}

function summaryOf(results: CheckResult[]): string {
  if (results.length === 0) return ''
  const count = (status: CheckResult['status']) => results.filter((one) => one.status === status).length
  const parts = [
    count('fail') > 0 ? `${count('fail')} ${count('fail') === 1 ? 'fails' : 'fail'}, and publishing asks why` : 'Nothing stands in the way of publishing',
    count('warn') > 0 ? `${count('warn')} to look at` : '',
    `${count('pass')} passed`,
    count('skip') > 0 ? `${count('skip')} not checked` : '',
  ]
  return `${parts.filter(Boolean).join('; ')}.`
}
