/** How far a value pushed the answer: "▲ adds 8 points". Sign, word and colour say the same. */
import { pushOf, type FieldWhy } from '../../domain/why'

export const SIGNS = { up: '▲', down: '▼', none: '' }
export const COLOURS = { up: 'text-raise', down: 'text-lower', none: 'text-soft' }

export function PushWords({ why }: { why: FieldWhy | null }) {
  if (!why || why.push === null) return null
  const push = pushOf(why.push, why.scale, why.isEstimate)
  return (
    <span className={`text-[0.88em] ${COLOURS[push.direction]}`}>
      {SIGNS[push.direction] && <span aria-hidden="true">{SIGNS[push.direction]} </span>}
      {push.words}
    </span>
  )
}
