/** The report in full, where the author shows it to visitors: fetched when somebody opens it. */
import { useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import { api, expectData, type Page } from '../../api/client'
import { ClassReport } from '../../parts/report/ClassReport'
import { NumberReport } from '../../parts/report/NumberReport'
import { SeveralReports } from '../../parts/report/SeveralReports'

export function TrustReport({ page }: { page: Page }) {
  const [isOpen, setIsOpen] = useState(false)
  const report = useQuery({
    queryKey: ['report', page.slug, page.release],
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/report', { params: { path: { slug: page.slug }, query: page.release === null ? { draft: '1' } : {} } })),
    enabled: isOpen,
  })
  return (
    <details className="mt-4" onToggle={(event) => setIsOpen(event.currentTarget.open)}>
      <summary className="button-quiet w-fit">How it did on cases it had not seen, in full</summary>
      {report.isPending && isOpen && <p className="mt-2 text-soft">Counting…</p>}
      {report.error && <p className="mt-2 text-alert">{report.error.message}</p>}
      {report.data && (
        <>
          {report.data.confusion && <ClassReport answer={page.answer} report={report.data} />}
          {report.data.kind === 'number' && <NumberReport answer={page.answer} report={report.data} typicalError={page.report?.typical_error} />}
          <SeveralReports report={report.data} />
        </>
      )}
    </details>
  )
}
