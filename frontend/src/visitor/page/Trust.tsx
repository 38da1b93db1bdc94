/** How far to trust it: what the author says of the model, and what it is not for. */
import { lazy, memo, Suspense } from 'react'
import type { Field, InputValue, Page } from '../../api/client'
import { keepsInputs } from '../../domain/entered'
import { isSeen } from '../../domain/kinds'
import { groupedText, listText, valueText } from '../../domain/format'
import { InBrowser } from './InBrowser'

const TrustReport = lazy(() => import('./TrustReport').then(({ TrustReport }) => ({ default: TrustReport })))

export const Trust = memo(function Trust({ page }: { page: Page }) {
  return (
    <section id="trust" data-setting="words" tabIndex={-1} aria-labelledby="trust-heading" className="card-line mt-10 max-w-[70ch] pt-5">
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
      {keepsInputs(page) && (
        <p className="mt-3 text-soft">What you enter here is kept for the author of this page, for {page.record_days} days; then it is deleted.</p>
      )}
      {page.in_browser && <InBrowser page={page} own={page.in_browser} />}
      {!page.in_browser && !page.records_inputs && page.fields.some(isCounted) && <p className="mt-3 text-soft">What you enter is not kept. Only how many cases lie where is counted, field by field.</p>}
      <Fixed page={page} />
      {page.parts.report && page.report && (
        <Suspense>
          <TrustReport page={page} />
        </Suspense>
      )}
      {page.licence && <p className="mt-3 text-[0.88em] text-soft">{page.licence}</p>}
    </section>
  )
})

/** Texts, pictures and drawings have nothing to be counted by. */
function isCounted(field: Field): boolean {
  return field.kind !== 'text' && !isSeen(field)
}

/** What every case of this page has in common, where the author fixed it. */
function Fixed({ page }: { page: Page }) {
  const fixed = page.fixed ?? []
  if (fixed.length === 0) return null
  const words = fixed.map((field) => `${field.label} ${valueText(field, (field.default ?? null) as InputValue)}`)
  return <p className="mt-3 text-soft">Every case here has {listText(words)}: the author of this page fixed that.</p>
}

/** "Right for 76 of 100 pieces it had not seen, of 600 that were tried." */
function reportWords({ answer }: Page, report: NonNullable<Page['report']>): string {
  if (report.right_of_100 !== null) {
    const noun = answer.kind === 'class' ? answer.noun : 'cases'
    return `Right for ${report.right_of_100} of 100 ${noun} it had not seen, of ${groupedText(report.n_known)} that were tried.`
  }
  if (report.typical_error === null) {
    const parts = (report.outputs ?? []).map((one) =>
      one.right_of_100 === null ? `${one.name} was off by less than ${one.typical_error} for half of them` : `${one.name} was right for ${one.right_of_100} of 100`,
    )
    return `Of ${groupedText(report.n_known)} cases it had not seen: ${parts.join('; ')}.`
  }
  const unit = answer.kind === 'number' ? answer.unit : ''
  return `Of ${groupedText(report.n_known)} cases it had not seen, half of its answers were off by less than ${report.typical_error} ${unit}`.trim() + '.'
}
