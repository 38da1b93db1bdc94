/** What stood on the page before: for undo. A pure structure. */
import type { FormValues } from './formState'

/** A pause this long between changes of one field starts a new step; a drag is one step. */
const STEP_MS = 900
const MOST_STEPS = 200

/** What stood in the form, and whether its answer was asked for. */
export interface Step {
  values: FormValues
  isAsked: boolean
}

export interface History {
  past: Step[]
  /** Which field was changed last, and when, in milliseconds. */
  last: { name: string; at: number } | null
}

export const NO_HISTORY: History = { past: [], last: null }

/** The history once `name` is changed on a page that stood at `before`; without a name it is a step by itself. */
export function remember(history: History, before: Step, name: string, at: number): History {
  const goesOn = name !== '' && history.last?.name === name && at - history.last.at < STEP_MS
  const past = goesOn ? history.past : [...history.past, before].slice(-MOST_STEPS)
  return { past, last: { name, at } }
}

/** The page as it stood before the last step, and the history without it; null if there is none. */
export function undo(history: History): { step: Step; history: History } | null {
  const step = history.past.at(-1)
  return step ? { step, history: { past: history.past.slice(0, -1), last: null } } : null
}
