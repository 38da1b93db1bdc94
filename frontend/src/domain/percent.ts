/** Percentages to one decimal, for whoever asks for them. */

/** What is not quite nothing or all of it is not said to be. */
export function percentText(probability: number): string {
  if (probability > 0 && probability < 0.0005) return 'under 0.1 %'
  if (probability < 1 && probability > 0.9995) return 'over 99.9 %'
  return `${(probability * 100).toFixed(1)} %`
}
