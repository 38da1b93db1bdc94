/** How far to trust it: what the author says of the model, and what it is not for. */
import type { Page } from '../api/client'

export function Trust({ page }: { page: Page }) {
  if (!page.description_html && !page.not_for && !page.licence && !page.records_inputs) return null
  return (
    <section id="trust" aria-labelledby="trust-heading" className="card-line mt-10 max-w-[70ch] pt-5">
      <h2 id="trust-heading" className="font-bold">
        How far to trust it
      </h2>
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
}
