/** An answer that is a picture: where the divider stands, how strong a mask lies over the picture, which kinds it shows. */
import { createContext, useCallback, useEffect, useMemo, useState } from 'react'
import type { MaskAnswer, MaskSetting, Page, PictureAnswer, PictureSetting } from '../../api/client'
import type { AnswerState } from '../case/answerLine'

export type MadeAnswer = { answer: PictureAnswer; setting: PictureSetting } | { answer: MaskAnswer; setting: MaskSetting }

export interface MadeView {
  made: MadeAnswer
  /** The answer's picture; null while it is being read. */
  image: ImageBitmap | null
  /** Of what was made: how far from the left the divider stands, from 0 to 1. Of a mask: how strong it is. */
  share: number
  isSideBySide: boolean
  /** Kinds of a mask that are switched off, by their places. */
  off: ReadonlySet<number>
  onShare: (share: number) => void
  onSideBySide: (isSideBySide: boolean) => void
  onSwitch: (place: number, isOn: boolean) => void
}

export const MadeContext = createContext<MadeView | null>(null)

/** Longest side of what a page is sent: it shows no more. */
export const SHOWN_SIDE = 1280

const MIDDLE = 0.5
const NONE: ReadonlySet<number> = new Set()

export function useMadeView(page: Page, state: AnswerState): MadeView | null {
  const made = useMemo(() => madeOf(page, state), [page, state])
  const image = useImage(made?.answer ?? null)
  const [share, setShare] = useState(MIDDLE)
  const [isSideBySide, setSideBySide] = useState(false)
  const [off, setOff] = useState<ReadonlySet<number>>(NONE)
  const onSwitch = useCallback((place: number, isOn: boolean) => setOff((before) => new Set(isOn ? [...before].filter((one) => one !== place) : [...before, place])), [])
  return useMemo(
    () => made && { made, image, share, isSideBySide, off, onShare: setShare, onSideBySide: setSideBySide, onSwitch },
    [made, image, share, isSideBySide, off, onSwitch],
  )
}

function madeOf(page: Page, state: AnswerState): MadeAnswer | null {
  if (state.status !== 'answered') return null
  const { answer } = state.answer
  if (answer.kind === 'picture' && page.answer.kind === 'picture') return { answer, setting: page.answer }
  if (answer.kind === 'mask' && page.answer.kind === 'mask') return { answer, setting: page.answer }
  return null
}

/** The pixels of an answer. */
function useImage(answer: PictureAnswer | MaskAnswer | null): ImageBitmap | null {
  const [read, setRead] = useState<{ of: unknown; image: ImageBitmap } | null>(null)
  // Decoding is outside React, and takes its time.
  useEffect(() => {
    if (!answer) return
    let isWanted = true
    const bytes = Uint8Array.from(atob(answer.data), (sign) => sign.charCodeAt(0))
    // A mask's values are no colours: nothing may be made of them on the way.
    void createImageBitmap(new Blob([bytes], { type: answer.type }), { colorSpaceConversion: 'none' }).then((image) => {
      if (isWanted) setRead({ of: answer, image })
    })
    return () => {
      isWanted = false
    }
  }, [answer])
  return read && read.of === answer ? read.image : null
}
