/** The libraries that a model runs with, where it asks for some. */
import type { DemoState } from '../../api/client'

export function Libraries({ demo: { environment, requirements } }: { demo: DemoState }) {
  if (!environment) return <>not needed: its file holds no code, and is read here. Its requirements are kept with it.</>
  const asked = (requirements ?? '').toLowerCase()
  // What was asked for first; then what that needs in turn.
  const packages = [...environment.packages].sort((a, b) => Number(asked.includes(b.name)) - Number(asked.includes(a.name)))
  return (
    <>
      {!environment.is_here && <span className="text-caution">! not on this machine any more; give the requirements again, and they are built anew. </span>}
      {packages.map(({ name, version }) => `${name} ${version}`).join(', ')}
    </>
  )
}
