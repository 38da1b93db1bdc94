/** The door through which the pages ask: to the server, or in a file that needs none to what the file carries. */
export type Door = (request: Request) => Promise<Response>

let door: Door = (request) => fetch(request)

/** Ask whoever answers. */
export function askAtDoor(request: Request): Promise<Response> {
  return door(request)
}

/** Have everything answered by `own` from now on. */
export function answerBy(own: Door): void {
  door = own
}
