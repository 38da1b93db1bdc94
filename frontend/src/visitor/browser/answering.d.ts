/** What answers in a browser; it has rules of its own for how its types are checked. */
declare module 'answering-in-browser' {
  export const openSent: import('./sent').OpenSent
}
