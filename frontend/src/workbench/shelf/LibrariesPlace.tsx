/** The libraries that a model asks for: a file of its own, or those that another demo has already. */
import { useQuery } from '@tanstack/react-query'
import { api, expectData } from '../../api/client'
import { FilePlace } from './FilePlace'

/** Sent in the place of a file; the form turns it into one. */
export const CHOSEN_LIBRARIES = 'requirements_chosen'
const MOST_NAMED = 4

export function LibrariesPlace() {
  const known = useQuery({ queryKey: ['environments'], queryFn: () => expectData(api.GET('/api/v1/environments')) })
  const there = (known.data?.environments ?? []).filter((one) => one.is_here)
  return (
    <>
      <FilePlace
        name="requirements"
        label="Libraries of its own"
        help="A requirements.txt, for a pickle or a function that needs other versions or other packages than those here. They are built once, and only this model runs with them."
        accept=".txt,text/plain"
      />
      {there.length > 0 && (
        <label className="mb-4 block">
          <span className="text-soft">Or those that are here already</span>
          <select name={CHOSEN_LIBRARIES} defaultValue="" className="mt-1 block w-full max-w-xl border-b border-edge bg-paper py-1">
            <option value="">None of these</option>
            {there.map((one) => (
              <option key={one.id} value={one.requirements}>
                {namesOf(one.requirements)}
                {one.demos.length > 0 ? ` (${one.demos.slice(0, MOST_NAMED).join(', ')})` : ''}
              </option>
            ))}
          </select>
        </label>
      )}
    </>
  )
}

/** What was asked for, in a line. */
function namesOf(requirements: string): string {
  const lines = requirements
    .split('\n')
    .map((line) => line.replace(/\s*(#|--hash).*$/, '').trim())
    .filter(Boolean)
  return lines.length > MOST_NAMED ? `${lines.slice(0, MOST_NAMED).join(', ')} and ${lines.length - MOST_NAMED} more` : lines.join(', ')
}
