/** A line that saves itself: after a pause, on Enter and on leaving it. What does not fit is said under it. */
import { faultText } from '../../api/faultText'
import { useEffect, useEffectEvent, useId, useRef, useState } from 'react'
import { SIGN_IN_AGAIN } from './useDraft'

const SAVE_AFTER_MS = 600

export interface SavedInputProps {
  label: string
  value: string
  /** Saves; rejects with an `ApiError` if it cannot be. */
  onSave: (value: string) => Promise<void>
  /** Whether the label is shown, or only said. */
  isLabelHidden?: boolean
  placeholder?: string
  inputMode?: 'text' | 'decimal'
  isMultiline?: boolean
  className?: string
}

export function SavedInput({ label, value, onSave, isLabelHidden, placeholder, inputMode, isMultiline, className = '' }: SavedInputProps) {
  const id = useId()
  const [text, setText] = useState(value)
  const [fault, setFault] = useState('')
  const saved = useRef(value)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)

  // The value may change elsewhere: undone, or set by another place.
  useEffect(() => {
    if (value !== saved.current) {
      saved.current = value
      setText(value)
      setFault('')
    }
  }, [value])

  const save = async (next: string) => {
    clearTimeout(timer.current)
    if (next === saved.current) return
    const before = saved.current
    saved.current = next
    try {
      await onSave(next)
      setFault('')
    } catch (error) {
      saved.current = before
      setFault(faultText(error))
    }
  }
  // Signed in again in another tab: what stands here is saved when its author comes back.
  const comeBack = useEffectEvent(() => void save(text))
  useEffect(() => {
    if (fault !== SIGN_IN_AGAIN) return
    window.addEventListener('focus', comeBack)
    return () => window.removeEventListener('focus', comeBack)
  }, [fault])
  const edit = (next: string) => {
    setText(next)
    clearTimeout(timer.current)
    timer.current = setTimeout(() => void save(next), SAVE_AFTER_MS)
  }
  const shared = {
    id,
    value: text,
    placeholder,
    'aria-invalid': fault !== '',
    'aria-describedby': fault ? `${id}-fault` : undefined,
    onBlur: () => void save(text),
  }
  return (
    <div className={className}>
      <label htmlFor={id} className={isLabelHidden ? 'sr-only' : 'block text-soft'}>
        {label}
      </label>
      {isMultiline ? (
        <textarea {...shared} rows={5} className="block w-full border border-edge bg-paper px-2 py-1" onChange={(event) => edit(event.target.value)} />
      ) : (
        <input
          {...shared}
          className="input-line w-full"
          inputMode={inputMode}
          onChange={(event) => edit(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && void save(text)}
        />
      )}
      {fault && (
        <p id={`${id}-fault`} role="alert" className="mt-0.5 text-[0.88em] text-alert">
          {fault}
        </p>
      )}
    </div>
  )
}
