/** Whether something is good news or bad: a sign of its own for each, and its word, never the colour alone. */
import type { ClassWording } from '../api/client'

type Tone = NonNullable<ClassWording['tone']>

const SIGNS: Record<Tone, { sign: string; word: string; look: string }> = {
  '': { sign: '', word: '', look: '' },
  calm: { sign: '●', word: 'good', look: 'text-calm' },
  caution: { sign: '▲', word: 'with care', look: 'text-caution' },
  alert: { sign: '◆', word: 'bad', look: 'text-alert' },
}

export function ToneSign({ tone }: { tone: Tone }) {
  const { sign, word, look } = SIGNS[tone]
  if (!sign) return null
  return (
    <span className={look}>
      <span aria-hidden="true">{sign}</span>
      <span className="sr-only">{word}:</span>
    </span>
  )
}
