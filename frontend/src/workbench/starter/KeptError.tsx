/** What the model does on rows that no fit saw; marked where that is worse than it had seemed. */
import type { KeptError as Found } from '../../api/client'
import { plainText } from '../../parts/table/tableWords'

export function KeptError({ found }: { found: Found | null | undefined }) {
  if (!found) return null
  const isDoubtful = found.beside === 'worse' || !found.is_better
  return (
    <p className={`mt-2 max-w-[65ch] ${isDoubtful ? 'text-caution' : ''}`} data-testid="kept-error">
      {isDoubtful && <span aria-hidden="true">! </span>}
      {plainText(found.sentence)}
    </p>
  )
}
