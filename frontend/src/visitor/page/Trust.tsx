/** How far to trust it: what the author says of the model, and what it is not for. */
import { memo } from 'react'
import type { Page } from '../../api/client'

export const Trust = memo(function Trust({ page }: { page: Page }) {
  if (!page.description_html && !page.not_for && !page.licence && !page.records_inputs && !page.report) return null
  return (
    <section id="trust" tabIndex={-1} aria-labelledby="trust-heading" className="card-line mt-10 max-w-[70ch] pt-5">
      <h2 id="trust-heading" className="font-bold">
        How far to trust it
      </h2>
      {page.report && <p className="mt-2">{reportWords(page, page.report)}</p>}
      {page.description_html && (
        // Sanitised by the server, which lets no script or style through; the page's policy would run none either.
        <div className="markdown" dangerouslySetInnerHTML={{ __html: page.description_html }} />
      )}
      {page.not_for && (
        <p className="mt-3">
          <strong>Not for:</strong> {page.not_for}
        </p>
      )}
      {page.records_inputs && <p className="mt-3 text-soft">What you enter here is kept for the author of this page.</p>}
      {page.licence && <p className="mt-3 text-[0.88em] text-soft">{page.licence}</p>}
    </section>
  )
})

/** "Right for 76 of 100 pieces it had not seen, of 600 that were tried." */
function reportWords({ answer }: Page, report: NonNullable<Page['report']>): string {
  if (report.right_of_100 !== null) {
    const noun = answer.kind === 'class' ? answer.noun : 'cases'
    return `Right for ${report.right_of_100} of 100 ${noun} it had not seen, of ${report.n_known} that were tried.`
  }
  if (report.typical_error === null) {
    const parts = (report.outputs ?? []).map((one) =>
      one.right_of_100 === null ? `${one.name} was off by less than ${one.typical_error} for half of them` : `${one.name} was right for ${one.right_of_100} of 100`,
    )
    return `Of ${report.n_known} cases it had not seen: ${parts.join('; ')}.`
  }
  const unit = answer.kind === 'number' ? answer.unit : ''
  return `Of ${report.n_known} cases it had not seen, half of its answers were off by less than ${report.typical_error} ${unit}`.trim() + '.'
}
