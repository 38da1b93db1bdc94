/** Sums in the order in which NumPy adds, so that results have its very digits. */

const ALONE = 8
const AT_ONCE = 128

/** The sum of numbers that lie side by side: by halves, and eight at a time within them. */
export function pairwiseSum(numbers: Float64Array): number {
  const n = numbers.length
  if (n < ALONE) {
    let total = n > 0 ? numbers[0] : 0
    for (let at = 1; at < n; at++) total += numbers[at]
    return total
  }
  if (n <= AT_ONCE) return sumByEight(numbers)
  let half = n >> 1
  half -= half % ALONE
  return pairwiseSum(numbers.subarray(0, half)) + pairwiseSum(numbers.subarray(half))
}

function sumByEight(numbers: Float64Array): number {
  const own = Float64Array.from(numbers.subarray(0, ALONE))
  const whole = numbers.length - (numbers.length % ALONE)
  for (let at = ALONE; at < whole; at += ALONE) {
    for (let lane = 0; lane < ALONE; lane++) own[lane] += numbers[at + lane]
  }
  let total = own[0] + own[1] + (own[2] + own[3]) + (own[4] + own[5] + (own[6] + own[7]))
  for (let at = whole; at < numbers.length; at++) total += numbers[at]
  return total
}
