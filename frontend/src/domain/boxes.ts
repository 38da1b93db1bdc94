/** Boxes around what was found in a picture: which are shown, what they come to, and where they lie in the view. */
import type { Cut, PictureValue } from '../api/picture'
import type { AnswerSetting, BoxesAnswer, FoundBox } from '../api/client'
import { countText, listText } from './format'

/** A box in shares of the picture as it is seen: cut out and turned. */
export type Place = Cut

/** A box that is shown: its number in the list, counted from 1. */
export interface NumberedBox {
  number: number
  box: FoundBox
}

/** Boxes with a score that is high enough and of a kind that is not switched off, best first. */
export function shownBoxes(answer: BoxesAnswer, leastScore: number, off: ReadonlySet<string>): NumberedBox[] {
  // A score is compared as the server does it: what has the least is in.
  return answer.boxes.filter((box) => box.score >= leastScore && !off.has(box.name)).map((box, at) => ({ number: at + 1, box }))
}

/** How many boxes of each kind have a high enough score, the kind of the best box first. */
export function countsByName(answer: BoxesAnswer, leastScore: number): Map<string, number> {
  const counts = new Map<string, number>()
  for (const box of answer.boxes) if (box.score >= leastScore) counts.set(box.name, (counts.get(box.name) ?? 0) + 1)
  return counts
}

/** "3 flaws", "1 flaw", "No flaws". */
export function foundWords(count: number, noun: string, nounOne: string): string {
  return count === 0 ? `No ${noun}` : `${count} ${count === 1 ? nounOne : noun}`
}

/** "2 blisters and 1 crack": by kind, as they are called, the most of them first. */
export function kindsWords(boxes: readonly FoundBox[], setting: AnswerSetting): string {
  const labels = setting.kind === 'boxes' ? setting.labels : []
  const counts = new Map<string, FoundBox[]>()
  for (const box of boxes) counts.set(box.name, [...(counts.get(box.name) ?? []), box])
  const most = [...counts].sort((one, other) => other[1].length - one[1].length)
  return listText(
    most.map(([name, same]) => {
      const known = labels.find((label) => label.name === name)
      return countText(same.length, same.length > 1 && known?.label_many ? known.label_many : (same[0]?.label ?? name))
    }),
  )
}

/** Where a box lies in what is seen of the picture; null if that part was cut away. */
export function placeInView(box: FoundBox, size: { width: number; height: number }, cut: Cut, turn: PictureValue['turn']): Place | null {
  const low = [(box.x / size.width - cut.left) / cut.width, (box.y / size.height - cut.top) / cut.height] as const
  const high = [((box.x + box.width) / size.width - cut.left) / cut.width, ((box.y + box.height) / size.height - cut.top) / cut.height] as const
  const [left, top, right, bottom] = turned(clamp(low[0]), clamp(low[1]), clamp(high[0]), clamp(high[1]), turn)
  return right > left && bottom > top ? { left, top, width: right - left, height: bottom - top } : null
}

/** Edges after the picture was turned clockwise. */
function turned(left: number, top: number, right: number, bottom: number, turn: PictureValue['turn']): [number, number, number, number] {
  switch (turn) {
    case 90:
      return [1 - bottom, left, 1 - top, right]
    case 180:
      return [1 - right, 1 - bottom, 1 - left, 1 - top]
    case 270:
      return [top, 1 - right, bottom, 1 - left]
    default:
      return [left, top, right, bottom]
  }
}

function clamp(value: number): number {
  return Math.min(1, Math.max(0, value))
}

/** Where a box lies in words, in ninths of the picture: "upper left", "in the middle". */
export function whereWords(box: FoundBox, size: { width: number; height: number }): string {
  const across = ['left', 'middle', 'right'][third((box.x + box.width / 2) / size.width)]
  const down = ['upper', 'middle', 'lower'][third((box.y + box.height / 2) / size.height)]
  if (across === 'middle' && down === 'middle') return 'in the middle'
  if (down === 'middle') return `${across} of the middle`
  return `${down} ${across}`
}

function third(share: number): number {
  return Math.min(2, Math.max(0, Math.floor(3 * share)))
}
