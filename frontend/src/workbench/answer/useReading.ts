/** Saving how an answer is read from a model's outputs, one setting at a time. */
import { useState } from 'react'
import { faultText } from '../../api/faultText'
import type { Draft } from '../bench/useDraft'

/** Whatever is set of a reading confirms it. `set` says by its promise what is wrong, `save` by `fault`. */
export function useReading<Reading extends object>(draft: Draft) {
  const [fault, setFault] = useState('')
  const set = (changes: Partial<Reading>) => draft.save({ answer: { reading: changes as Record<string, unknown> } })
  const save = (changes: Partial<Reading>) => void set(changes).then(() => setFault(''), (error: unknown) => setFault(faultText(error)))
  return { set, save, fault }
}
