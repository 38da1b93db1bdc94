/** Contributions of anything, by asking about every coalition of inputs. */

/**
 * Shapley values from the value of every coalition: coalition `c` has the inputs whose bits are set in `c`.
 */
export function shapleyOfCoalitions(values: Float64Array, nPlayers: number): Float64Array {
  const weights = new Float64Array(nPlayers)
  // s! (n − 1 − s)! / n! for a coalition of s others.
  weights[0] = 1 / nPlayers
  for (let size = 1; size < nPlayers; size++) weights[size] = (weights[size - 1] * size) / (nPlayers - size)
  const contributions = new Float64Array(nPlayers)
  for (let coalition = 0; coalition < values.length; coalition++) {
    const size = bitsOf(coalition)
    for (let player = 0; player < nPlayers; player++) {
      const bit = 1 << player
      if (coalition & bit) continue
      contributions[player] += weights[size] * (values[coalition | bit] - values[coalition])
    }
  }
  return contributions
}

function bitsOf(coalition: number): number {
  let [left, n] = [coalition, 0]
  for (; left > 0; left &= left - 1) n += 1
  return n
}
