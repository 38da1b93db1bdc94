/** What a screen reader is told when the answer changes: after a pause, and only what is new. */
import { rowsText, shortened } from '../../domain/answerText'
import { useEffect, useRef, useState } from 'react'
import type { Answer } from '../../api/client'
import { listText } from '../../domain/format'
import { saidShare } from '../../domain/saidClass'
import type { AnswerState } from '../case/answerLine'

/** Whoever drags or types is not talked to before they rest. */
const QUIET_MS = 700

/** The text of the page's one live region. */
export function useAnnouncement(state: AnswerState): string {
  const [said, setSaid] = useState('')
  const last = useRef<AnswerState | null>(null)
  // Speech is outside React, and takes its time.
  useEffect(() => {
    const timer = setTimeout(() => {
      const words = announcement(last.current, state)
      if (state.status !== 'asking') last.current = state
      if (words !== null) setSaid(words)
    }, QUIET_MS)
    return () => clearTimeout(timer)
  }, [state])
  return said
}

/** What is to be said of `now` to somebody who was told of `before`; null for nothing new. */
export function announcement(before: AnswerState | null, now: AnswerState): string | null {
  switch (now.status) {
    case 'answered': {
      if (now.delay) return before?.status === 'answered' && before.delay === now.delay ? null : now.delay
      if (now.isStale) return null
      const known = before?.status === 'answered' ? before.answer.answer : null
      const words = known && answerWords(known) === answerWords(now.answer.answer) ? '' : changeWords(known, now.answer.answer)
      const notes = now.answer.notes.map((note) => note.message)
      const told = before?.status === 'answered' ? before.answer.notes.map((note) => note.message) : []
      const fresh = notes.filter((note) => !told.includes(note))
      return [words, ...fresh].filter(Boolean).join('. ') || null
    }
    case 'refused': {
      const told = before?.status === 'refused' ? before.faults.map((fault) => fault.message) : []
      return now.faults.map((fault) => fault.message).filter((message) => !told.includes(message)).join(' ') || null
    }
    case 'waiting':
    case 'failed':
      return before?.status === now.status && before.message === now.message ? null : now.message
    case 'invitation':
      return before && before.status !== 'invitation' ? 'No answer is shown now.' : null
    case 'asking':
      return null
  }
}

/** Headline and figure; of a headline that stays only the figure. */
function changeWords(before: Answer | null, now: Answer): string {
  if (now.kind === 'class' && before?.kind === 'class' && before.headline === now.headline) {
    const share = saidShare(now)
    return share ? `Now ${share.of_100} of 100` : now.headline
  }
  if (now.kind === 'numbers' && before?.kind === 'numbers') {
    const moved = now.values.filter((item, at) => item.text !== before.values[at]?.text)
    return moved.map((item) => `${item.name} ${item.text} ${item.unit}`.trim()).join(', ')
  }
  return answerWords(now)
}

function answerWords(answer: Answer): string {
  switch (answer.kind) {
    case 'class': {
      const share = saidShare(answer)
      return share ? `${answer.headline}: ${share.of_100} of 100` : answer.headline
    }
    case 'number':
      return `${answer.text} ${answer.unit}`.trim()
    case 'numbers':
      return answer.values.map((item) => `${item.name} ${item.text} ${item.unit}`.trim()).join(', ')
    case 'labels': {
      const applying = answer.labels.filter((item) => item.applies).map((item) => item.label)
      return applying.length ? `${listText(applying)}: ${applying.length === 1 ? 'applies' : 'apply'}` : 'None of them applies'
    }
    case 'picture':
      return 'The picture that was made stands beside yours'
    case 'mask':
      return listText(answer.kinds.filter((kind) => kind.of_100 > 0).map((kind) => `${kind.label} ${kind.of_100} of 100`))
    case 'text':
      return shortened(answer.text)
    case 'table':
      return rowsText(answer.rows.length)
    case 'boxes':
      return answer.boxes.length ? `Found: ${answer.boxes.length}` : 'Nothing found'
  }
}
