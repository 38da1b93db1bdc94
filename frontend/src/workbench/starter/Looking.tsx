/** What is seen in a table: its columns as a sheet, what lies in wait in them, and what is done about it. */
import { useState } from 'react'
import { Link, useSearch } from 'wouter'
import type { JobView, StarterChanges, StarterLook } from '../../api/client'
import { Choice } from '../bench/Choice'
import { FaultList } from '../bench/FaultList'
import { Problem } from '../bench/Problem'
import { plainText } from '../../parts/table/tableWords'
import { ColumnSheet } from './ColumnSheet'
import { Findings } from './Findings'
import { useCancel, useGoOn, useStarterChange } from './queries'
import { groupOf, timeOf } from './starterWords'
import { Tour } from './Tour'
import { tourSteps } from './tourSteps'
import { groupedText } from '../../domain/format'

export function Looking({ job, look }: { job: JobView; look: StarterLook }) {
  const change = useStarterChange(job.id)
  const goOn = useGoOn(job.id)
  const cancel = useCancel(job.id)
  const hasTour = new URLSearchParams(useSearch()).has('tour')
  const [tourAt, setTourAt] = useState(hasTour ? 0 : -1)
  // The columns that the tour is at, or a finding that was pointed at.
  const [shown, setShown] = useState<readonly string[]>(() => (hasTour ? (tourSteps(look.sheet)[0]?.columns ?? []) : []))
  const { sheet } = look
  const isChosen = look.choices.target !== ''
  const begin = () => goOn.mutate(isChosen ? undefined : { target: sheet.target })
  return (
    <>
      <h1 className="text-[1.6em] font-bold">{job.file}</h1>
      <p className="text-soft">
        {groupedText(sheet.n_rows)} rows, {sheet.columns.length} columns. {look.used.length === 1 ? 'One of them is' : `${look.used.length} of them are`} told to the model.
      </p>
      <div className="mt-4 grid items-start gap-x-10 gap-y-6 min-[1000px]:grid-cols-[minmax(0,7fr)_minmax(0,5fr)]">
        <div>
          <Wanted look={look} onChange={change.mutate} />
          <ColumnSheet look={look} shown={shown} isBusy={change.isPending} onChange={change.mutate} />
        </div>
        <div className="min-[1000px]:sticky min-[1000px]:top-4">
          <Tour look={look} at={tourAt} onGo={setTourAt} onShow={setShown} />
          {tourAt < 0 && <Findings look={look} onShow={setShown} onChange={change.mutate} />}
          {sheet.notes?.map((note) => (
            <p key={note} className="mt-2 text-soft">
              {note}
            </p>
          ))}
          <Questions job={job} onChange={change.mutate} />
          <Problem error={change.error ?? goOn.error ?? cancel.error} />
          <p className="card-line mt-5 flex flex-wrap items-center gap-x-6 gap-y-2 pt-4">
            <button type="button" className="button-primary" disabled={goOn.isPending || change.isPending} onClick={begin}>
              Compare models
            </button>
            <button type="button" className="button-quiet" onClick={() => cancel.mutate()}>
              Cancel
            </button>
            <Link href="/start" className="button-quiet">
              Another table
            </Link>
          </p>
          <p className="mt-2 text-soft">A fifth of the rows is kept back first: no model sees them, and they become the page’s known cases.</p>
        </div>
      </div>
    </>
  )
}

/** What is to be predicted, and by what rows are parted. */
function Wanted({ look, onChange }: { look: StarterLook; onChange: (changes: StarterChanges) => void }) {
  const { sheet } = look
  const first = [sheet.target, ...sheet.targets]
  const names = [...first, ...sheet.columns.map(({ name }) => name).filter((name) => !first.includes(name))]
  const asOptions = (list: readonly string[]) => list.map((value) => ({ value, label: value }))
  const others = sheet.columns.map(({ name }) => name).filter((name) => name !== sheet.target)
  return (
    <div className="grid grid-cols-2 items-end gap-x-6 gap-y-3 pb-4 min-[700px]:grid-cols-4">
      <Choice label="To be predicted" value={sheet.target} options={asOptions(names)} onChange={(target) => onChange({ target })} />
      <Choice
        label="As"
        value={sheet.answer}
        options={[
          { value: 'class', label: 'a class' },
          { value: 'number', label: 'a number' },
        ]}
        onChange={(answer) => onChange({ target: sheet.target, answer })}
      />
      <Choice label="Kept together by" value={groupOf(look)} options={[{ value: '', label: 'nothing' }, ...asOptions(others)]} onChange={(group) => onChange({ group })} />
      <Choice label="In order of" value={timeOf(look)} options={[{ value: '', label: 'nothing' }, ...asOptions(sheet.dates ?? [])]} onChange={(time) => onChange({ time })} />
    </div>
  )
}

/** What can be read in two ways, with both; other faults as they are. */
function Questions({ job, onChange }: { job: JobView; onChange: (changes: StarterChanges) => void }) {
  const faults = (job.errors ?? []).filter(({ field }) => field !== 'target')
  const asked = faults.filter(({ choices }) => choices?.length)
  return (
    <>
      {asked.map((fault) => (
        <fieldset key={fault.message} className="mt-3">
          <legend className="text-caution">
            <span aria-hidden="true">! </span>
            {plainText(fault.message)}
          </legend>
          {fault.choices?.map((choice) => (
            <button key={choice} type="button" className="button-plain mt-2 mr-3" onClick={() => onChange(fault.field === 'dates' ? { dates: choice as 'day' } : { numbers: choice as '1,234.5' })}>
              {choice === 'day' ? 'The day comes first' : choice === 'month' ? 'The month comes first' : choice}
            </button>
          ))}
        </fieldset>
      ))}
      <FaultList faults={faults.filter(({ choices }) => !choices?.length)} />
    </>
  )
}
