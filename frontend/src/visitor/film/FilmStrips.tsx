/** What was said over time: a row for each class, kind or number, a mark for each frame. Pressed anywhere, the film jumps there. */
import { useMemo, type PointerEvent } from 'react'
import type { AnswerSetting, FilmFrame, FilmRow } from '../../api/client'
import { clockText, heights, momentWords, mostAtOnce, placeAt, rowsShown, type Seen } from '../../domain/films'
import { markOf } from '../../parts/Mark'
import { StripRow } from './StripRow'

export interface FilmStripsProps {
  setting: AnswerSetting
  rows: FilmRow[]
  frames: FilmFrame[]
  /** How long the film is, in seconds. */
  lasts: number
  seconds: number
  seen: Seen
  /** Where the strips begin, in seconds; of a camera they move along. */
  from?: number
  /** Without it, nothing can be jumped to. */
  onJump?: (seconds: number) => void
}

const MOST_ROWS = 8

export function FilmStrips({ setting, rows, frames, lasts, seconds, seen, from = 0, onJump }: FilmStripsProps) {
  const all = useMemo(() => heights(setting, rows, frames, seen), [setting, rows, frames, seen])
  const { places, left } = useMemo(() => rowsShown(setting, rows, all, MOST_ROWS), [setting, rows, all])
  const most = useMemo(() => (setting.kind === 'boxes' ? mostAtOnce(rows, frames, seen) : 1), [setting, rows, frames, seen])
  const span = Math.max(0.1, lasts - from)
  const jumpTo = (event: PointerEvent<HTMLElement>) => {
    if (!onJump || (event.type === 'pointermove' && event.buttons === 0)) return
    const box = event.currentTarget.getBoundingClientRect()
    onJump(from + span * Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)))
  }
  const frame = frames[placeAt(frames, seconds)]
  return (
    <div className="mt-1" data-testid="strips">
      <div className="film-strips" style={{ cursor: onJump ? 'pointer' : 'default' }} onPointerDown={jumpTo} onPointerMove={jumpTo} aria-hidden="true">
        {places.map((at) => (
          <StripRow
            key={rows[at]!.name}
            label={rows[at]!.label}
            mark={markOf(at, toneOf(setting, at))}
            heights={all[at]!}
            most={most}
            frames={frames}
            saidAs={setting.kind === 'class' ? rows[at]!.name : null}
            from={from}
            span={span}
          />
        ))}
        <span className="film-now" style={{ left: `${Math.min(100, Math.max(0, (100 * (seconds - from)) / span))}%` }} />
      </div>
      {left > 0 && <p className="text-[0.9em] text-soft">{left} more that were never as likely are in the table to save.</p>}
      {onJump && (
        <input
          type="range"
          className="slider"
          min={0}
          max={lasts}
          step={0.1}
          value={Math.min(lasts, seconds)}
          aria-label="Moment in the film"
          aria-valuetext={`${clockText(seconds)}: ${frame ? momentWords(setting, rows, frame, seen) : 'no answer yet'}`}
          onChange={(event) => onJump(Number(event.target.value))}
        />
      )}
      <p className="film-ends flex justify-between text-[0.88em] text-soft tabular-nums" aria-hidden="true">
        <span>{clockText(from)}</span>
        <span>{clockText(lasts)}</span>
      </p>
    </div>
  )
}

function toneOf(setting: AnswerSetting, at: number): { tone: '' | 'calm' | 'caution' | 'alert' } | undefined {
  if (setting.kind === 'class') return { tone: setting.classes[at]?.tone ?? '' }
  if (setting.kind === 'boxes' || setting.kind === 'mask') return { tone: setting.labels[at]?.tone ?? '' }
  return undefined
}
