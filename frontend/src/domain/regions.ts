/** What is known of where a model looked, as numbers to draw and to say. */
import type { Where } from '../api/picture'

/** The largest standard error of what is listed, in the answer's unit; null while there is only a sketch. */
export function largestError(where: Where): number | null {
  const listed = where.parts === 'patches' ? where.regions.map((region) => region.error) : where.errors
  const errors = listed.filter((error): error is number => error !== null)
  return errors.length ? Math.max(...errors) : null
}

/** How strong each part is beside the strongest, from −1 to 1; what hardly matters must not look as if it did. */
export function strengths(contributions: number[], hardly = Number.MIN_VALUE): number[] {
  const most = Math.max(...contributions.map(Math.abs), hardly)
  return contributions.map((contribution) => contribution / most)
}
