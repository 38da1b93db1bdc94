/** Title, purpose, and the way to how far to trust it. */
import type { Page } from '../../api/client'
import { jump } from './focus'

/** With the draft's own while the draft is shown; a page that is a file has it within itself. */
function logoAddress({ slug, logo, release }: Page): string {
  if (logo?.path.startsWith('data:')) return logo.path
  return `/api/v1/demos/${slug}/${logo?.path}${release === null ? '&draft=1' : ''}`
}

export function Head({ page }: { page: Page }) {
  return (
    <header data-setting="words" className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pt-6 pb-5">
      {page.logo && <img src={logoAddress(page)} alt={page.logo.alt} className="max-h-12 max-w-40 self-center object-contain" />}
      <h1 className="min-w-0 text-[1.4em] font-bold break-words">{page.title}</h1>
      {page.purpose && <p className="min-w-0 text-soft">{page.purpose}</p>}
      {(page.not_for || page.description_html || page.report) && (
        <a href="#trust" onClick={jump} className="button-quiet ml-auto text-[0.84em] print:hidden">
          How far to trust it
        </a>
      )}
      {(page.unconfirmed ?? []).map((text) => (
        <p key={text} className="basis-full border-l-3 border-caution pl-4 text-[0.92em] text-caution">
          <span aria-hidden="true">! </span>
          Draft, to be confirmed under Model: {text}
        </p>
      ))}
    </header>
  )
}
