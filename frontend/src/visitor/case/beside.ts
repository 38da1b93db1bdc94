/** What comes right behind an answer: asked for the newest answer only, so that nothing stale is ever shown. */
import { useEffect, useMemo, useSyncExternalStore } from 'react'
import type { Page } from '../../api/client'
import { isSeen } from '../../domain/kinds'
import { predict } from '../../api/picture'
import { AnswerLine, DRAG_PAUSE_MS, type Answered, type AnswerState } from './answerLine'

export interface BesideQuery {
  with: string
  to?: string
  reach?: string
  /** Of several answers, the one that is explained. */
  of?: string
}

export interface Beside {
  /** The answer once more with what was asked for beside it; null while there is none, or nothing is asked for. */
  found: Answered | null
  /** Whether the first of it is still on its way. */
  isComing: boolean
}

/**
 * What belongs to the newest answer.
 *
 * @param pauseMs how long the answer must have stood before this is asked: what takes the model longer waits until a
 * hand that drags has come to rest
 */
export function useBeside(page: Page, isDraft: boolean, state: AnswerState, query: BesideQuery | null, pauseMs = 0): Beside {
  const { slug } = page
  const { with: parts, to, reach, of } = query ?? { with: '' }
  const line = useMemo(
    () =>
      new AnswerLine(
        (inputs) =>
          predict(slug, inputs, { with: parts, to, reach, of, ...(isDraft ? { draft: '1' } : {}) }),
        DRAG_PAUSE_MS,
      ),
    [slug, isDraft, parts, to, reach, of],
  )
  const beside = useSyncExternalStore(line.subscribe, line.read)
  const inputs = parts && state.status === 'answered' && !state.isStale ? state.inputs : null
  // The server is outside React: each answer asks it once for what belongs to it.
  useEffect(() => {
    if (!inputs) return
    if (pauseMs === 0) {
      line.ask(inputs)
      return
    }
    const timer = setTimeout(() => line.ask(inputs), pauseMs)
    return () => clearTimeout(timer)
  }, [line, inputs, pauseMs])
  useEffect(() => {
    if (state.status !== 'answered' && state.status !== 'asking') line.reset()
  }, [line, state.status])
  if (beside.status === 'answered') return { found: beside, isComing: false }
  const isOver = beside.status === 'failed' || beside.status === 'refused'
  return { found: null, isComing: parts !== '' && state.status === 'answered' && !isOver }
}

/** The query about one of several answers, if the visitor chose one that there is. */
export function withOutput(query: BesideQuery | null, { answer }: Page, of: string | undefined): BesideQuery | null {
  const names = answer.kind === 'labels' ? answer.labels.map((one) => one.name) : answer.kind === 'numbers' ? answer.values.map((one) => one.name) : []
  return query && of !== undefined && names.includes(of) ? { ...query, of } : query
}

/** What the page asks right behind each answer, by the parts its author shows. */
export function partsBehind({ parts, fields }: Page): BesideQuery | null {
  // Of a picture alone, where the model looked says more; that comes by itself.
  if (fields.every(isSeen)) return null
  const wanted = [parts.contributions && 'explanation', parts.curves && 'curves', parts.similar && 'similar'].filter(Boolean)
  return wanted.length ? { with: wanted.join(',') } : null
}
