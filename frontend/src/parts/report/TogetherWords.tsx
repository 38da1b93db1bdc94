/** That several known cases are of one thing, and count as one for how sure the report is. */
import type { FullReport } from '../../api/client'
import { groupedText } from '../../domain/format'

export function TogetherWords({ report }: { report: FullReport }) {
  const { known_group: group, things, cases } = report
  if (!group || !things) return null
  return (
    <p className="max-w-[65ch] text-soft">
      Cases of one “{group}” go wrong together: how sure this is goes by {groupedText(things)} of those, not by {groupedText(cases)} cases.
    </p>
  )
}
