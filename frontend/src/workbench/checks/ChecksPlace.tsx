/** Checks: what stands in the way of publishing; how the model did on known cases, as a page to hand to a colleague, and the cases one by one. */
import { useCallback, useState } from 'react'
import { ApiError, type DemoState } from '../../api/client'
import { isSeen } from '../../domain/kinds'
import { ClassReport } from '../../parts/report/ClassReport'
import { NumberReport } from '../../parts/report/NumberReport'
import { SeveralReports } from '../../parts/report/SeveralReports'
import { Problem } from '../bench/Problem'
import type { Draft } from '../bench/useDraft'
import { ChecksSheet } from './ChecksSheet'
import { ExpectedSheet } from './ExpectedSheet'
import { Groups } from './Groups'
import { KnownCases } from './KnownCases'
import { useChecks } from './useChecks'
import { useReport, type CasesWanted } from './queries'

const WORST: CasesWanted = { order: 'worst', show: 'all' }

export function ChecksPlace({ draft }: { draft: Draft }) {
  return (
    <>
      <ChecksSheet demo={draft.demo} />
      <Expected demo={draft.demo} />
      <div className="card-line mt-6 pt-5">
        <Report draft={draft} />
      </div>
    </>
  )
}

/** Pictures do not fit into a table. */
function Expected({ demo }: { demo: DemoState }) {
  const { data: results = [] } = useChecks(demo.slug)
  if (demo.fields.some(isSeen)) return null
  return <ExpectedSheet demo={demo} check={results.find((one) => one.name === 'same-as-expected')} />
}

function Report({ draft }: { draft: Draft }) {
  const { demo } = draft
  const [by, setBy] = useState<string | null>(null)
  const [wanted, setWanted] = useState<CasesWanted>(WORST)
  const report = useReport(demo.slug, by)
  const open = useCallback((cases: Partial<CasesWanted>) => {
    setWanted({ ...WORST, ...cases })
    document.getElementById('known-cases')?.scrollIntoView({ block: 'start' })
  }, [])
  if (report.isPending) return <p className="text-soft">Counting…</p>
  if (report.isError && !report.data) {
    return (
      <>
        <h2 className="font-bold">How it does on known cases</h2>
        {report.error instanceof ApiError && report.error.problem.status === 422 ? (
          <p className="mt-2 max-w-[65ch]">{report.error.message} They are given on the Model page.</p>
        ) : (
          <Problem error={report.error} />
        )}
      </>
    )
  }
  const { data } = report
  return (
    <div data-testid="report">
      <h2 className="font-bold">How it does on known cases</h2>
      {data.confusion && <ClassReport answer={demo.answer} report={data} onOpen={open} />}
      {data.kind === 'number' && <NumberReport answer={demo.answer} report={data} typicalError={demo.report?.typical_error} />}
      <SeveralReports report={data} />
      <Groups demo={demo} report={data} by={by} onBy={setBy} />
      <KnownCases draft={draft} wanted={wanted} onWanted={setWanted} />
    </div>
  )
}
