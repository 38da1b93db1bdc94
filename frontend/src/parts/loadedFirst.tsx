/** Parts of a page that come in a file of their own, and are there before anything is drawn with them. */
import { lazy, Suspense, type ComponentType } from 'react'

/**
 * The component, and what fetches it. Fetched, it is drawn at once like any other; what is merely lazy is drawn one frame
 * later than what stands beside it, which moves.
 */
export function loadedFirst<Props extends object>(load: () => Promise<{ default: ComponentType<Props> }>): [ComponentType<Props>, () => Promise<void>] {
  let Loaded: ComponentType<Props> | null = null
  const Late = lazy(load) as unknown as ComponentType<Props>
  const fetchIt = async () => {
    Loaded = (await load()).default
  }
  const Part = (props: Props) =>
    Loaded ? (
      <Loaded {...props} />
    ) : (
      <Suspense>
        <Late {...props} />
      </Suspense>
    )
  return [Part, fetchIt]
}
