/** That the process which answers here is not there, since when, and what answers meanwhile. */
import type { Page } from '../../api/client'
import { agoText } from '../../domain/format'
import { useNow } from '../../parts/useNow'

const MOMENT = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' })
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })

export function AwayNotice({ page }: { page: Page }) {
  const now = useNow()
  const { away } = page
  if (!away) return null
  const since = away.since ? ` since ${MOMENT.format(new Date(away.since))}, ${agoText(away.since, now)}` : ''
  return (
    <p role="status" className="mb-2 border-l-3 border-caution pl-4 text-[0.94em] text-caution" data-testid="away">
      <span aria-hidden="true">! </span>
      {away.published_at
        ? `The process that answers here has been away${since}. Version ${page.release}, of ${DAY.format(new Date(away.published_at))}, answers meanwhile.`
        : `The process that answers here has been away${since}. Until it is back there are no answers; this page looks for it by itself.`}
    </p>
  )
}
