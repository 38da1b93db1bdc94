/** Asks where the model looked, right behind each answer; what is shown is always about the newest one. */
import { useEffect, useState } from 'react'
import type { Page } from '../../api/client'
import { lookWhere, type Where } from '../../api/picture'
import type { AnswerState } from '../case/answerLine'
import { isSeen } from '../../domain/kinds'

/** A hand that draws pauses longer than this between strokes. */
const PAUSE_MS = 180

export type WhereState = Where[]

/** By field; empty while nothing is known about what stands there now. */
export function useWhere(page: Page, isDraft: boolean, state: AnswerState): WhereState {
  const { slug } = page
  const inputs = page.parts.contributions && state.status === 'answered' && !state.isStale ? state.inputs : null
  const [found, setFound] = useState<{ inputs: unknown; byField: Record<string, Where> }>({ inputs: null, byField: {} })
  const fields = page.fields.filter(isSeen).map((field) => field.name).join('\n')
  // The server is outside React: each answer asks it once, and what comes of an older one is dropped.
  useEffect(() => {
    if (!inputs || !fields) return
    const control = new AbortController()
    const timer = setTimeout(async () => {
      for (const field of fields.split('\n')) {
        try {
          await lookWhere(slug, inputs, { field, ...(isDraft ? { draft: '1' } : {}) }, control.signal, (where) => {
            setFound((before) => ({ inputs, byField: { ...(before.inputs === inputs ? before.byField : {}), [field]: where } }))
          })
        } catch {
          // The answer stands without it; what came before is shown.
          return
        }
      }
    }, PAUSE_MS)
    return () => {
      clearTimeout(timer)
      control.abort()
    }
  }, [slug, isDraft, inputs, fields])
  return inputs && found.inputs === inputs ? Object.values(found.byField) : []
}
