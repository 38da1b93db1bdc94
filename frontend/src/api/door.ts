/** The door through which the pages ask: to the server, or in a file that needs none to what the file carries. */
export type Door = (request: Request) => Promise<Response>

/** The server. */
export const atServer: Door = (request) => fetch(request)

let door = atServer

/** Ask whoever answers. */
export function askAtDoor(request: Request): Promise<Response> {
  return door(request)
}

/** Have everything answered by `own` from now on. */
export function answerBy(own: Door): void {
  door = own
}

const listeners = new Set<() => void>()

/** Have `listener` called when whoever answers has come; gives what ends that. */
export function onAnswering(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** Say that whoever answers has come: what waited is asked again at once. */
export function sayAnswering(): void {
  listeners.forEach((listener) => listener())
}
