/** Shares as people count them. */

/** A share in whole marks of 100, half a mark up, as the server rounds it; all of them only where it is so. */
export function ofHundred(share: number): number {
  const marks = Math.floor(Number((100 * share).toFixed(10)) + 0.5)
  return share < 1 ? Math.min(99, marks) : marks
}

/** "76 of 100 (71 to 80)" */
export function shareText({ value, low, high }: { value: number; low: number; high: number }): string {
  return `${ofHundred(value)} of 100 (${ofHundred(low)} to ${ofHundred(high)})`
}
