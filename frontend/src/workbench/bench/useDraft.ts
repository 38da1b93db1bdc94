/** The draft as the places edit it: saved as it is typed, every change with the way back. */
import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useState } from 'react'
import { api, ApiError, expectData, rememberCsrfToken, type AnswerChanges, type DemoChanges, type DemoState, type FieldChanges } from '../../api/client'
import { changeDemo, demoKey, fetchDemo, useDraftChange } from './queries'

const CHANGED_ELSEWHERE = 412
/** No session, or another one than this window knows of; to others' demos an author is nobody. */
const SIGNED_OUT = new Set([401, 403, 404])
export const SIGN_IN_AGAIN = 'You are signed out by now. Sign in again in another tab and come back: what stands here is saved then.'
/** Steps back that are kept. */
const MOST_STEPS = 200

/** Changes, or what makes them out of the draft as it is when their turn comes. */
type Wanted = DemoChanges | ((now: DemoState) => DemoChanges)

export interface Draft {
  demo: DemoState
  /**
   * Save a change, after those that are under way.
   * Rejects with an `ApiError` that says what does not fit.
   */
  save: (wanted: Wanted) => Promise<void>
  undo: () => void
  canUndo: boolean
  isSaving: boolean
  /** The draft changed by something else than `save`. */
  onChanged: () => void
  /** What another window did to the draft meanwhile; null if nothing. */
  elsewhere: Elsewhere | null
}

export interface Elsewhere {
  /** What this window wanted to set and another had set otherwise meanwhile; null where both go together. */
  conflict: DemoChanges | null
  keepMine: () => void
  keepTheirs: () => void
}

export function useDraft(demo: DemoState, onChanged: () => void): Draft {
  const change = useDraftChange(demo.slug, onChanged)
  const queries = useQueryClient()
  const [history, setHistory] = useHistory(demo.slug)
  const [elsewhere, setElsewhere] = useState<{ conflict: DemoChanges | null } | null>(null)
  const { mutateAsync } = change
  const save = useCallback(
    async (wanted: Wanted) => {
      let back: DemoChanges = {}
      await mutateAsync(async () => {
        // As it is by now, not as it was when this was drawn.
        const seen = queries.getQueryData<DemoState>(demoKey(demo.slug)) ?? demo
        back = inverse(seen, changesTo(seen, wanted))
        try {
          return await signedIn(() => changeDemo(seen.slug, changesTo(seen, wanted)))
        } catch (error) {
          if (!(error instanceof ApiError) || error.problem.status !== CHANGED_ELSEWHERE) throw error
          // Read anew: what both changed is for the author to decide, everything else goes together.
          const theirs = await queries.fetchQuery({ queryKey: demoKey(seen.slug), queryFn: () => fetchDemo(seen.slug), staleTime: 0 })
          onChanged()
          const changes = changesTo(theirs, wanted)
          const backToTheirs = inverse(theirs, changes)
          if (JSON.stringify(backToTheirs) !== JSON.stringify(back)) {
            setElsewhere({ conflict: changes })
            throw error
          }
          back = backToTheirs
          const saved = await changeDemo(seen.slug, changes)
          setElsewhere({ conflict: null })
          return saved
        }
      })
      setHistory((steps) => [...steps, back].slice(-MOST_STEPS))
    },
    [mutateAsync, queries, onChanged, setHistory, demo],
  )
  const undo = useCallback(() => {
    const back = history.at(-1)
    if (!back) return
    setHistory((steps) => steps.slice(0, -1))
    void mutateAsync(() => changeDemo(demo.slug, back)).catch(() => {
      // The step stays; the draft as it now is comes first.
      setHistory((steps) => [...steps, back])
      return queries.invalidateQueries({ queryKey: demoKey(demo.slug) })
    })
  }, [history, mutateAsync, setHistory, queries, demo.slug])
  const conflict = elsewhere?.conflict ?? null
  const keepMine = useCallback(() => {
    const told = () => setElsewhere((now) => (now?.conflict === conflict ? null : now))
    if (!conflict) return told()
    // Until it is saved both stand there: where it could not be it can be tried again.
    save(conflict).then(told, () => undefined)
  }, [conflict, save])
  const keepTheirs = useCallback(() => setElsewhere(null), [])

  // The keyboard is the browser's; inside a text it has an undo of its own.
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const isTyping = event.target instanceof HTMLElement && event.target.matches('input:not([type=radio]), textarea')
      if ((event.ctrlKey || event.metaKey) && !event.shiftKey && event.key === 'z' && !isTyping) {
        event.preventDefault()
        undo()
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [undo])

  return {
    demo,
    save,
    undo,
    canUndo: history.length > 0,
    isSaving: change.isPending,
    onChanged,
    elsewhere: elsewhere && { conflict, keepMine, keepTheirs },
  }
}

/**
 * A change that a session has ended before: once more where its author has signed in again meanwhile, in another tab.
 * What was typed stays in its line until then.
 */
async function signedIn<Result>(change: () => Promise<Result>): Promise<Result> {
  try {
    return await change()
  } catch (error) {
    if (!(error instanceof ApiError) || !SIGNED_OUT.has(error.problem.status)) throw error
    const session = await expectData(api.GET('/api/v1/session'))
    if (!session.author) throw new ApiError({ ...error.problem, detail: SIGN_IN_AGAIN, errors: null }, null)
    rememberCsrfToken(session.csrf_token)
    return change()
  }
}

const changesTo = (now: DemoState, wanted: Wanted): DemoChanges => (typeof wanted === 'function' ? wanted(now) : wanted)

/** The ways back, kept for this window, so that a reload loses none. */
function useHistory(slug: string) {
  const key = `undo ${slug}`
  const [history, setHistory] = useState<DemoChanges[]>(() => readSteps(sessionStorage.getItem(key)))
  useEffect(() => keepSteps(key, history), [key, history])
  return [history, setHistory] as const
}

/** As many of the last steps as there is room for: ready pictures are large. */
function keepSteps(key: string, steps: DemoChanges[]): void {
  for (let kept = steps; ; kept = kept.slice(Math.ceil(kept.length / 2))) {
    try {
      sessionStorage.setItem(key, JSON.stringify(kept))
      return
    } catch {
      if (kept.length === 0) return
    }
  }
}

/** Steps as they were kept; none if that cannot be read. */
export function readSteps(kept: string | null): DemoChanges[] {
  try {
    const steps: unknown = JSON.parse(kept ?? '[]')
    return Array.isArray(steps) ? (steps as DemoChanges[]) : []
  } catch {
    return []
  }
}

/** What would set everything that `changes` names back to how it is in `demo`. */
export function inverse(demo: DemoState, changes: DemoChanges): DemoChanges {
  const back: Record<string, unknown> = {}
  for (const key of Object.keys(changes) as (keyof DemoChanges)[]) {
    if (key === 'fields') back.fields = inverseFields(demo, changes.fields ?? [])
    else if (key === 'answer') back.answer = inverseAnswer(demo, changes.answer ?? {})
    else back[key] = demo[key as keyof DemoState]
  }
  return back as DemoChanges
}

function inverseFields(demo: DemoState, changed: FieldChanges[]): FieldChanges[] {
  const byName = new Map(demo.fields.map((field) => [field.name, field as unknown as Record<string, unknown>]))
  const previous = (change: FieldChanges): FieldChanges => {
    const field = byName.get(change.name) ?? {}
    const keys = Object.keys(change) as (keyof FieldChanges)[]
    return Object.fromEntries(keys.map((key) => [key, field[key]])) as unknown as FieldChanges
  }
  // A change that names every field sets their order too; so does its way back.
  if (changed.length === demo.fields.length) {
    const byChange = new Map(changed.map((change) => [change.name, change]))
    return demo.fields.map((field) => previous(byChange.get(field.name) ?? { name: field.name }))
  }
  return changed.map(previous)
}

function inverseAnswer(demo: DemoState, changed: AnswerChanges): AnswerChanges {
  const answer = demo.answer as unknown as Record<string, unknown>
  return Object.fromEntries(Object.keys(changed).map((key) => [key, answer[key]]))
}
