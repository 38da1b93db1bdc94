/** Asks where the model looked, right behind each answer; what is shown is always about the newest one. */
import { useEffect, useState } from 'react'
import { ApiError, type Page } from '../../api/client'
import { lookWhere, type Where } from '../../api/picture'
import type { AnswerState } from '../case/answerLine'
import { isSeen } from '../../domain/kinds'

interface Found {
  inputs: unknown
  byField: Record<string, Where>
  /** Why no more will come; null while more may. */
  why: string | null
}

const NOTHING: Found = { inputs: null, byField: {}, why: null }
const NO_WHERE: WhereState = { where: [], isComing: false, why: null }

/** A hand that draws pauses longer than this between strokes. */
const PAUSE_MS = 180

export interface WhereState {
  /** By field; empty while nothing is known about what stands there now. */
  where: Where[]
  /** Whether some field's first is still on its way. */
  isComing: boolean
  /** Why there is none, or none sharper. */
  why: string | null
}

export function useWhere(page: Page, isDraft: boolean, state: AnswerState): WhereState {
  const { slug } = page
  const inputs = page.parts.contributions && state.status === 'answered' && !state.isStale ? state.inputs : null
  const [found, setFound] = useState<Found>(NOTHING)
  const fields = page.fields.filter(isSeen).map((field) => field.name).join('\n')
  // The server is outside React: each answer asks it once, and what comes of an older one is dropped.
  useEffect(() => {
    if (!inputs || !fields) return
    const control = new AbortController()
    const timer = setTimeout(async () => {
      for (const field of fields.split('\n')) {
        try {
          await lookWhere(slug, inputs, { field, ...(isDraft ? { draft: '1' } : {}) }, control.signal, (where) => {
            setFound((before) => ({ inputs, byField: { ...(before.inputs === inputs ? before.byField : {}), [field]: where }, why: null }))
          })
        } catch (error) {
          // The answer stands without it; what came before is shown.
          const why = error instanceof ApiError ? error.problem.detail : 'Where the model looked is not shown. Something went wrong on this page.'
          if (!control.signal.aborted) setFound((before) => ({ inputs, byField: before.inputs === inputs ? before.byField : {}, why }))
          return
        }
      }
    }, PAUSE_MS)
    return () => {
      clearTimeout(timer)
      control.abort()
    }
  }, [slug, isDraft, inputs, fields])
  if (!inputs || !fields) return NO_WHERE
  const now = found.inputs === inputs ? found : NOTHING
  const where = Object.values(now.byField)
  return { where, why: now.why, isComing: now.why === null && where.length < fields.split('\n').length }
}
