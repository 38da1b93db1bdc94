/** The author's own process that answers, where the model stays in one: whether it is there, and how to connect it. */
import type { DemoState } from '../../api/client'
import { agoText } from '../../domain/format'
import { useNow } from '../../parts/useNow'
import { connecting } from '../shelf/ConnectNotebook'
import { Lines } from '../share/Lines'

export interface ProcessProps {
  bridge: NonNullable<DemoState['bridge']>
  /** What the function that answers there is called. */
  model: string | undefined
}

export function Process({ bridge, model }: ProcessProps) {
  const now = useNow()
  const since = bridge.since ? agoText(bridge.since, now) : ''
  if (bridge.connected)
    return (
      <>
        connected {since}
        {bridge.name && `: ${bridge.name}`}, Python {bridge.python}
      </>
    )
  return (
    <>
      <span className="text-caution">! away{since && `, last seen ${since}`}.</span>
      <Lines label="To connect it" text={connecting(location.origin, bridge.demo, model)} />
    </>
  )
}
