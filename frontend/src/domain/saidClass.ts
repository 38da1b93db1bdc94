/** What an answer says of the class it says: with a threshold that is not always the likeliest. */
import type { ClassAnswer } from '../api/client'

type Share = ClassAnswer['probabilities'][number]

/** The share of the class that is said; undefined where the model gives no probabilities. */
export function saidShare(answer: ClassAnswer): Share | undefined {
  return answer.probabilities.find((item) => item.class === answer.class)
}

/** The other classes, likeliest first. */
export function otherShares(answer: ClassAnswer): Share[] {
  return answer.probabilities.filter((item) => item.class !== answer.class)
}
