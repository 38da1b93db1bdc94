/** What controls for one of several options have in common. */
import type { InputValue } from '../../api/client'
import type { ControlIds } from './FieldRow'
import { answerWords, curveAt, type FieldWhy } from '../../domain/why'

export interface ChoiceOption {
  value: string | number | boolean
  label: string
}

export interface ChoiceControlProps {
  label: string
  options: ChoiceOption[]
  /** Null for "not known". */
  value: InputValue
  ids: ControlIds
  why: FieldWhy | null
  onChange: (value: InputValue) => void
}

/** Options whose words begin with what was typed, then those that have it anywhere; accents do not matter. */
export function searched(options: ChoiceOption[], query: string): ChoiceOption[] {
  const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
  const wanted = plain(query.trim())
  if (!wanted) return options
  const first = options.filter((option) => plain(option.label).startsWith(wanted))
  const then = options.filter((option) => !plain(option.label).startsWith(wanted) && plain(option.label).includes(wanted))
  return [...first, ...then]
}

/** In a list there is no room for bars: what the answer would be stands behind each option. */
export function optionWords(why: FieldWhy, value: InputValue): string {
  const y = why.curve ? curveAt(why.curve, value) : null
  return y === null ? '' : ` (${answerWords(y, why.scale)})`
}
