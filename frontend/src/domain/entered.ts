/** What becomes of what a visitor enters. */
import type { Page } from '../api/client'

/** Whether it is kept for the page's author: never of what is answered in its visitor's browser. */
export function keepsInputs({ records_inputs, in_browser }: Page): boolean {
  return records_inputs && !in_browser
}
