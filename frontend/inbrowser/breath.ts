/** Long work in a thread that answers others too: now and then it lets them go before, and ends when nobody waits for it any more. */

/** Whoever asked has asked anew, or gone. */
export class NotWantedAnyMore extends Error {
  override name = 'NotWantedAnyMore'
}

export type IsOver = () => boolean
/** Between two pieces of work. Throws `NotWantedAnyMore`. */
export type Breath = () => Promise<void>

/** For so long others wait at the most, in milliseconds. */
const MOST_HELD_UP = 8

export function breathOf(isOver: IsOver): Breath {
  let last = performance.now()
  return async () => {
    if (performance.now() - last < MOST_HELD_UP) return
    await othersFirst()
    if (isOver()) throw new NotWantedAnyMore()
    last = performance.now()
  }
}

/** Let what has come in meanwhile be taken up. */
export function othersFirst(): Promise<void> {
  return new Promise((go) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => (port1.close(), go())
    port2.postMessage(null)
  })
}
