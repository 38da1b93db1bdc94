/** What went wrong, as one sentence under the line it is about. */
import { ApiError } from './client'

export function faultText(error: unknown, otherwise = 'Could not be saved. Try again.'): string {
  return error instanceof ApiError ? (error.problem.errors?.[0]?.message ?? error.message) : otherwise
}
