/** That several known cases are of one thing, and count as one for how sure the report is. */
import type { FullReport } from '../../api/client'

export function TogetherWords({ report }: { report: FullReport }) {
  const { known_group: group, things, cases } = report
  if (!group || !things) return null
  return (
    <p className="max-w-[65ch] text-soft">
      Cases of one “{group}” go wrong together: how sure this is goes by {things} of those, not by {cases} cases.
    </p>
  )
}
