/** The draft as the places edit it: saved as it is typed, every change with the way back. */
import { useCallback, useEffect, useRef, useState } from 'react'
import type { AnswerChanges, DemoChanges, DemoState, FieldChanges } from '../api/client'
import { useDraftChange } from './queries'

export interface Draft {
  demo: DemoState
  /** Save a change. Rejects with an `ApiError` that says what does not fit. */
  save: (changes: DemoChanges) => Promise<void>
  undo: () => void
  canUndo: boolean
  isSaving: boolean
}

export function useDraft(demo: DemoState, onChanged: () => void): Draft {
  const change = useDraftChange(demo.slug, onChanged)
  const [history, setHistory] = useState<DemoChanges[]>([])
  const { mutateAsync } = change
  const current = useRef(demo)
  current.current = demo

  const save = useCallback(
    async (changes: DemoChanges) => {
      const back = inverse(current.current, changes)
      await mutateAsync(changes)
      setHistory((steps) => [...steps, back])
    },
    [mutateAsync],
  )
  const undo = useCallback(() => {
    const back = history.at(-1)
    if (!back) return
    setHistory((steps) => steps.slice(0, -1))
    void mutateAsync(back)
  }, [history, mutateAsync])

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

  return { demo, save, undo, canUndo: history.length > 0, isSaving: change.isPending }
}

/** What would set everything that `changes` names back to how it is in `demo`. */
export function inverse(demo: DemoState, changes: DemoChanges): DemoChanges {
  const back: Record<string, unknown> = {}
  for (const key of Object.keys(changes) as (keyof DemoChanges)[]) {
    if (key === 'fields') back.fields = inverseFields(demo, changes.fields ?? [])
    else if (key === 'answer') back.answer = inverseAnswer(demo, changes.answer ?? {})
    else back[key] = demo[key]
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
