/** Numbers and values as a visitor reads them. */
import type { Field, InputValue } from '../api/client'

/** A number without trailing zeros or an exponent, as one would type it. */
export function numberText(value: number): string {
  return String(Number(value.toPrecision(12)))
}

/** A field's value in words: "14 mm", "Porcelain", "yes", "not known". */
export function valueText(field: Field, value: InputValue | undefined): string {
  if (value === null || value === undefined) return 'not known'
  switch (field.kind) {
    case 'number':
      return field.unit ? `${numberText(Number(value))} ${field.unit}` : numberText(Number(value))
    case 'choice':
      return field.options.find((option) => option.value === value)?.label ?? String(value)
    case 'yes_no':
      return value ? 'yes' : 'no'
    case 'text':
      return String(value)
    case 'picture':
      return 'a picture'
    case 'drawing':
      return 'a drawing'
  }
}

/** "a, b and c" */
export function listText(words: string[]): string {
  return words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? '')
}

/** How long ago, in words; an empty string for never. */
export function agoText(time: string | null, now: Date): string {
  if (!time) return ''
  const seconds = Math.max(0, (now.getTime() - new Date(time).getTime()) / 1000)
  const steps: [number, string][] = [
    [86_400, 'day'],
    [3600, 'hour'],
    [60, 'minute'],
  ]
  for (const [size, name] of steps) {
    const count = Math.floor(seconds / size)
    if (count >= 1) return `${count} ${name}${count > 1 ? 's' : ''} ago`
  }
  return 'just now'
}
