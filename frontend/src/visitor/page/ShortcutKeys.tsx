/** The one letter that does something, what it does, and a switch for whoever would rather it did nothing. */
import { useCallback, useEffect, useState } from 'react'

const STORED = 'plain-window:keys'

export interface Shortcut {
  isOn: boolean
  onSwitch: (isOn: boolean) => void
}

/** Does `act` when the letter is pressed and nothing is being typed. */
export function useShortcut(letter: string, act: () => void, isWanted: boolean): Shortcut {
  const [isOn, setIsOn] = useState(readSwitch)
  // The keyboard is the browser's; a letter that is typed into a field is a letter.
  useEffect(() => {
    if (!isOn || !isWanted) return
    const onKey = (event: KeyboardEvent) => {
      const target = event.target instanceof HTMLElement ? event.target : null
      const isTyping = target?.isContentEditable || target?.matches('input:not([type=range]), textarea, select, [role=combobox], [role=listbox], [role=radio]')
      if (event.key.toLowerCase() === letter && !event.ctrlKey && !event.metaKey && !event.altKey && !event.repeat && !isTyping) act()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [letter, act, isOn, isWanted])
  const onSwitch = useCallback((next: boolean) => {
    setIsOn(next)
    try {
      localStorage.setItem(STORED, next ? 'on' : 'off')
    } catch {
      // A browser that keeps nothing asks again next time.
    }
  }, [])
  return { isOn, onSwitch }
}

function readSwitch(): boolean {
  try {
    return localStorage.getItem(STORED) !== 'off'
  } catch {
    return true
  }
}

export function ShortcutKeys({ isOn, onSwitch }: Shortcut) {
  return (
    <footer className="mt-8 print:hidden [@media(pointer:coarse)]:hidden">
      <label className="flex w-fit items-center gap-2 text-[0.84em] text-soft">
        <input type="checkbox" className="size-6 accent-(--glass)" checked={isOn} onChange={(event) => onSwitch(event.target.checked)} />
        The key K keeps the answer, while nothing is being typed
      </label>
    </footer>
  )
}
