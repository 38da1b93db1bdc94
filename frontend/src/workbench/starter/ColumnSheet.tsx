/** The columns of a table as a sheet: what each is, how its values lie, and whether a model is told it. */
import { useEffect, useRef } from 'react'
import type { StarterChanges, StarterColumn, StarterLook } from '../../api/client'
import { KIND_WORDS, roleOf, valuesText } from './starterWords'
import { ValueBars } from './ValueBars'

const GRID = 'grid grid-cols-[1.25rem_minmax(0,5fr)_minmax(0,4fr)_4.5rem_minmax(0,6fr)_3.5rem] items-center gap-x-3'
const NO_USE = new Set(['empty', 'constant'])

interface ColumnSheetProps {
  look: StarterLook
  /** Columns that are pointed at. */
  shown: readonly string[]
  isBusy: boolean
  onChange: (changes: StarterChanges) => void
}

export function ColumnSheet({ look, shown, isBusy, onChange }: ColumnSheetProps) {
  return (
    <section aria-label="Columns" aria-busy={isBusy} data-testid="columns">
      <div className={`${GRID} py-1 text-[0.93em] text-soft`} aria-hidden="true">
        <span />
        <span>Column</span>
        <span>What it is</span>
        <span />
        <span>Values</span>
        <span className="text-right">Gaps</span>
      </div>
      <ul>
        {look.sheet.columns.map((column) => (
          <ColumnRow key={column.name} column={column} look={look} isShown={shown.includes(column.name)} isFirstShown={shown[0] === column.name} onChange={onChange} />
        ))}
      </ul>
    </section>
  )
}

interface ColumnRowProps {
  column: StarterColumn
  look: StarterLook
  isShown: boolean
  isFirstShown: boolean
  onChange: (changes: StarterChanges) => void
}

function ColumnRow({ column, look, isShown, isFirstShown, onChange }: ColumnRowProps) {
  const { name, kind } = column
  const row = useRef<HTMLLIElement>(null)
  // What is pointed at from elsewhere comes into sight.
  useEffect(() => {
    if (isFirstShown) row.current?.scrollIntoView({ block: 'nearest' })
  }, [isFirstShown])
  const role = roleOf(name, look)
  const isUsed = look.used.includes(name)
  const use = (isWanted: boolean) => {
    const drop = (look.choices.drop ?? []).filter((other) => other !== name)
    const keep = (look.choices.keep ?? []).filter((other) => other !== name)
    onChange(isWanted ? { drop, keep: [...keep, name] } : { drop: [...drop, name], keep })
  }
  const gaps = Math.round((100 * column.n_gaps) / look.sheet.n_rows)
  return (
    <li ref={row} data-column={name} className={`card-line ${isShown ? '-ml-3 border-l-3 border-l-glass pl-[9px]' : ''}`}>
      <div className={`${GRID} min-h-10 py-1 ${role === 'left out' ? 'text-soft' : ''}`}>
        {name === look.sheet.target ? (
          <span aria-hidden="true" className="text-glass">
            ◆
          </span>
        ) : (
          <input type="checkbox" className="size-4 accent-(--glass)" checked={isUsed} disabled={NO_USE.has(kind) || role === 'keeps rows together'} aria-label={`Tell the model ${name}`} onChange={(event) => use(event.target.checked)} />
        )}
        <span className="min-w-0">
          <span className="block truncate font-bold" title={name}>
            {name}
          </span>
          {role && <span className="block text-[0.86em]">{role}</span>}
        </span>
        <KindChoice column={column} look={look} onChange={onChange} />
        <ValueBars column={column} />
        <span className="line-clamp-2 text-[0.93em] text-soft [overflow-wrap:anywhere]">{valuesText(column)}</span>
        <span className="text-right text-[0.93em] text-soft tabular-nums">{column.n_gaps === 0 ? '–' : gaps === 0 ? 'under 1 %' : `${gaps} %`}</span>
      </div>
    </li>
  )
}

/** What a column is, and what else it may be taken for. */
function KindChoice({ column, look, onChange }: { column: StarterColumn; look: StarterLook; onChange: (changes: StarterChanges) => void }) {
  const { name, kind, may_be: mayBe = [] } = column
  const other = mayBe.filter((one) => one === 'number' || one === 'category' || one === 'text')
  const chosen = look.choices.kinds?.[name]
  if (other.length === 0 || name === look.sheet.target) return <span className="text-[0.93em]">{KIND_WORDS[kind]}</span>
  const choose = (value: string) => {
    const { [name]: _, ...rest } = look.choices.kinds ?? {}
    onChange({ kinds: value === kind ? rest : { ...rest, [name]: value as 'number' } })
  }
  return (
    <select aria-label={`What ${name} is`} className="w-full min-w-0 border-b border-edge bg-paper py-0.5 text-[0.93em]" value={chosen ?? kind} onChange={(event) => choose(event.target.value)}>
      {[kind, ...other].map((value) => (
        <option key={value} value={value}>
          {KIND_WORDS[value]}
        </option>
      ))}
    </select>
  )
}
