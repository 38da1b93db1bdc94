/** The inverse of a matrix by elimination with row pivots; null for one that has none. */

/** Smaller pivots than this share of the largest number are taken for nothing. */
const NOTHING = 1e-12

export function inverted(matrix: Float64Array, n: number): Float64Array | null {
  const left = matrix.slice()
  const right = Float64Array.from({ length: n * n }, (_, at) => Number(at % (n + 1) === 0))
  const least = NOTHING * matrix.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
  for (let column = 0; column < n; column++) {
    let pivot = column
    for (let row = column + 1; row < n; row++) if (Math.abs(left[row * n + column]) > Math.abs(left[pivot * n + column])) pivot = row
    const size = left[pivot * n + column]
    if (!(Math.abs(size) > least)) return null
    for (const half of [left, right]) {
      const own = half.slice(pivot * n, (pivot + 1) * n)
      half.copyWithin(pivot * n, column * n, (column + 1) * n)
      half.set(own.map((value) => value / size), column * n)
    }
    for (let row = 0; row < n; row++) {
      const share = left[row * n + column]
      if (row === column || share === 0) continue
      for (const half of [left, right]) for (let at = 0; at < n; at++) half[row * n + at] -= share * half[column * n + at]
    }
  }
  return right
}
