/** A model that stays in a notebook or a script: the lines that connect it, and which are connected. */
import { useQuery } from '@tanstack/react-query'
import { Link } from 'wouter'
import { api, expectData } from '../../api/client'
import { agoText } from '../../domain/format'
import { useNow } from '../../parts/useNow'
import { Lines } from '../share/Lines'

const LOOK_MS = 5000

export function ConnectNotebook() {
  const now = useNow()
  const known = useQuery({ queryKey: ['bridges'], queryFn: () => expectData(api.GET('/api/v1/bridges')), refetchInterval: LOOK_MS })
  if (!known.data) return null
  const { client, bridges } = known.data
  return (
    <section className="card-line mt-10 pt-5" aria-labelledby="notebook-heading">
      <h2 id="notebook-heading" className="font-bold">
        Or connect a notebook
      </h2>
      <p className="mt-1 max-w-[65ch] text-soft">
        A function or a fitted model can stay where it is, and answer from there for as long as its process runs. Of a function its signature, its docstring and what its hints name are sent, never a body; of a fitted model the names of its features and classes. A reference table is sent only if you give one.
      </p>
      <Lines label="Once, in a shell" text={`pip install ${location.origin}/api/v1/bridge/${client}`} />
      <Lines label="In the notebook" text={connecting(location.origin)} />
      {bridges.length > 0 && (
        <ul className="mt-3" aria-label="Demos that are answered from elsewhere">
          {bridges.map((one) => (
            <li key={one.demo} className="card-line py-2">
              <Link href={`/demos/${one.demo}`} className="button-quiet">
                {one.demo}
              </Link>{' '}
              {one.connected ? `is connected${one.name ? ` (${one.name})` : ''}` : <span className="text-caution">! is away</span>}
              {one.since && <span className="text-soft">, {one.connected ? '' : 'last seen '}{agoText(one.since, now)}</span>}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

/** What is run there; the key is read from the environment, so that it stands in no notebook. */
export function connecting(origin: string, demo?: string, model = 'predict'): string {
  const address = demo ? `, demo="${demo}"` : ''
  return `from plain_window_bridge import connect\n# PLAINWINDOW_KEY holds a key of yours\nbridge = connect(${model}, to="${origin}"${address})`
}
