/** A film's answers in time: which of them a moment has, and what is said of it. Pure. */
import type { AnswerSetting, FilmFrame, FilmRow, FoundBox } from '../api/client'
import { foundWords, kindsWords } from './boxes'
import { countText } from './format'

/** The place of the answer that is shown at a time; -1 before the first. Answers come in the order of their times. */
export function placeAt(frames: readonly FilmFrame[], seconds: number): number {
  let low = 0
  let high = frames.length
  while (low < high) {
    const middle = (low + high) >> 1
    // A player's clock is no finer than this.
    if ((frames[middle] as FilmFrame).at <= seconds + 0.02) low = middle + 1
    else high = middle
  }
  return low - 1
}

/** Where a jump lands: on a frame that was asked about, so that what is drawn lies where it was found; never back where it came from. */
export function landing(frames: readonly FilmFrame[], from: number, to: number, lasts: number): number {
  if (to >= lasts) return to
  const place = placeAt(frames, to)
  const next = frames[to > from && place === placeAt(frames, from) ? place + 1 : place]
  return next?.at ?? to
}

/** "0:03", "12:40", "1:02:05". */
export function clockText(seconds: number): string {
  const whole = Math.floor(seconds + 1e-6)
  const two = (number: number) => String(number).padStart(2, '0')
  const minutes = Math.floor(whole / 60) % 60
  const hours = Math.floor(whole / 3600)
  return hours ? `${hours}:${two(minutes)}:${two(whole % 60)}` : `${minutes}:${two(whole % 60)}`
}

/** Boxes of one moment that are shown. */
export function boxesShown(frame: FilmFrame, leastScore: number, off: ReadonlySet<string>): FoundBox[] {
  return (frame.boxes ?? []).filter((box) => box.score >= leastScore && !off.has(box.name))
}

export interface Seen {
  leastScore: number
  off: ReadonlySet<string>
}

/** From 0 to 1 for each row at each moment: how high its mark stands. Of boxes a mark is as high as the most at a time. */
export function heights(setting: AnswerSetting, rows: readonly FilmRow[], frames: readonly FilmFrame[], seen: Seen): number[][] {
  const values = rows.map((row, at) => frames.map((frame) => (frame.fault ? 0 : valueOf(setting, row, at, frame, seen))))
  if (setting.kind === 'class' || setting.kind === 'labels') return values
  if (setting.kind === 'boxes') {
    const most = mostAtOnce(rows, frames, seen)
    return values.map((row) => row.map((value) => value / most))
  }
  return values.map((row) => {
    const [low, high] = [Math.min(...row), Math.max(...row)]
    // A number that never changes stands in the middle.
    return row.map((value) => (high > low ? 0.06 + (0.94 * (value - low)) / (high - low) : 0.5))
  })
}

/** Of how many boxes of a kind there are the most at any moment; 1 at the least. */
export function mostAtOnce(rows: readonly FilmRow[], frames: readonly FilmFrame[], seen: Seen): number {
  let most = 1
  for (const frame of frames) {
    const shown = boxesShown(frame, seen.leastScore, seen.off)
    for (const row of rows) most = Math.max(most, shown.filter((box) => box.name === row.name).length)
  }
  return most
}

function valueOf(setting: AnswerSetting, row: FilmRow, at: number, frame: FilmFrame, seen: Seen): number {
  if (setting.kind !== 'boxes') return frame.values[at] ?? 0
  return boxesShown(frame, seen.leastScore, seen.off).filter((box) => box.name === row.name).length
}

/** What the model says at a moment, in a line. */
export function momentWords(setting: AnswerSetting, rows: readonly FilmRow[], frame: FilmFrame, seen: Seen): string {
  if (frame.fault) return `no answer: ${frame.fault}`
  if (setting.kind === 'boxes') {
    const boxes = boxesShown(frame, seen.leastScore, seen.off)
    const found = foundWords(boxes.length, setting.noun ?? 'things', setting.noun_one ?? 'thing')
    return boxes.length ? `${found}: ${kindsWords(boxes, setting)}` : found
  }
  if (setting.kind === 'class') {
    const at = rows.findIndex((row) => row.name === frame.said)
    const said = saidWords(setting, frame)
    // How often it is right about what it puts so is known of cases as the author's, not of a film's frames.
    return frame.marks?.length ? `${said}; the model puts it at ${frame.marks[at] ?? 0} of 100` : said
  }
  if (setting.kind === 'labels') {
    const on = rows.filter((_, at) => (frame.values[at] ?? 0) >= (setting.labels[at]?.threshold ?? 0.5))
    return on.length ? on.map((row) => row.label).join(', ') : 'none of them'
  }
  return rows.map((row, at) => `${rows.length > 1 ? `${row.label} ` : ''}${frame.texts?.[at] ?? ''}${row.unit ? ` ${row.unit}` : ''}`).join(', ')
}

/** What is said of a class, as the page's answer says it. */
function saidWords(setting: AnswerSetting, frame: FilmFrame): string {
  const wording = setting.kind === 'class' ? setting.classes.find((one) => one.name === frame.said) : undefined
  return wording?.headline || wording?.label || (frame.said ?? '')
}

export interface Stretch {
  from: number
  /** Where the next begins; null for the last. */
  until: number | null
  words: string
}

/** The film as a table: stretches over which the same is said. Numbers change with each frame; of classes the class is told. */
export function stretches(setting: AnswerSetting, rows: readonly FilmRow[], frames: readonly FilmFrame[], seen: Seen): Stretch[] {
  const found: Stretch[] = []
  for (const frame of frames) {
    const words = setting.kind === 'class' && !frame.fault ? saidWords(setting, frame) : momentWords(setting, rows, frame, seen)
    const last = found.at(-1)
    if (last?.words === words) continue
    if (last) last.until = frame.at
    found.push({ from: frame.at, until: null, words })
  }
  return found
}

/** The rows that matter, and how many are left out: of many classes those that were ever likely. */
export function rowsShown(setting: AnswerSetting, rows: readonly FilmRow[], all: readonly number[][], most: number): { places: number[]; left: number } {
  const places = rows.map((_, at) => at)
  if (rows.length <= most || setting.kind === 'number' || setting.kind === 'numbers') return { places: places.slice(0, most), left: Math.max(0, rows.length - most) }
  const highest = all.map((row) => Math.max(0, ...row))
  const kept = [...places].sort((one, other) => (highest[other] ?? 0) - (highest[one] ?? 0)).slice(0, most)
  return { places: kept.sort((one, other) => one - other), left: rows.length - most }
}

/** "1 frame", "240 frames". */
export function framesText(count: number): string {
  return countText(count, count === 1 ? 'frame' : 'frames')
}
