/** The film with what was found in it: played, its answers in strips under it, and what there is to take. */
import { useMemo, useRef, useState } from 'react'
import type { Page } from '../../api/client'
import { clockText, landing, momentWords, placeAt } from '../../domain/films'
import { BoxesContext } from '../pictures/boxesView'
import { FilmBoxes } from './FilmBoxes'
import { FilmLayout } from './FilmLayout'
import type { FilmState } from './filmRun'
import { FilmPlayer } from './FilmPlayer'
import { FilmProgress } from './FilmProgress'
import { FilmStrips } from './FilmStrips'
import { FilmTable } from './FilmTable'
import { SaveFilm } from './SaveFilm'
import { usePlayable } from './usePlayable'
import { useSeen } from './useSeen'

export interface FilmViewProps {
  page: Page
  state: FilmState
  onDrop: () => void
}

export function FilmView({ page, state, onDrop }: FilmViewProps) {
  const { job, frames, rows } = state
  const player = useRef<HTMLVideoElement>(null)
  const [seconds, setSeconds] = useState(0)
  const [own, setOwn] = useState(0)
  const playable = usePlayable(state.address, job)
  const { seen, viewOf } = useSeen(page)
  const film = job?.film ?? null
  const lasts = film?.seconds ?? (own || (frames.at(-1)?.at ?? 0) + 1 / (film?.rate ?? 5))
  const frame = frames[placeAt(frames, seconds)] ?? null
  const view = useMemo(() => (film ? viewOf(frame, film) : null), [film, frame, viewOf])
  const jump = (to: number) => {
    const at = landing(frames, seconds, to, lasts)
    setSeconds(at)
    // Times are told to a thousandth; a little behind it the frame itself is shown, and not the one before.
    if (player.current) player.current.currentTime = Math.min(lasts, at + 0.004)
  }
  const said = frame ? momentWords(page.answer, rows, frame, seen) : frames.length ? '' : 'no answer yet'
  return (
    <BoxesContext value={view}>
      <div className="mt-2" data-testid="film">
        <p className="font-bold break-words">{state.file?.name}</p>
        <FilmLayout
          pane={<FilmPlayer ref={player} playable={playable} film={film} onTime={setSeconds} onLength={setOwn} />}
          moment={
            <p className="mt-2 min-h-[3em] text-[1.2em] leading-snug" data-testid="moment">
              <span className="text-soft tabular-nums">{clockText(seconds)}</span> <span className="font-bold">{said}</span>
            </p>
          }
          strips={rows.length > 0 && <FilmStrips setting={page.answer} rows={rows} frames={frames} lasts={lasts} seconds={seconds} seen={seen} onJump={jump} />}
          aside={
            <>
              {frames.length > 0 && <FilmBoxes note="While the film plays, boxes are those of the frame that was asked about last." />}
              {job && <FilmProgress job={job} />}
              {job?.result && <SaveFilm job={job} view={view} name={state.file?.name ?? 'film'} />}
              <p className="mt-3">
                <button type="button" className="button-quiet" onClick={onDrop}>
                  {job && job.state !== 'running' && job.state !== 'waiting' ? 'Another film' : 'Cancel'}
                </button>
              </p>
            </>
          }
        />
        {frames.length > 0 && <FilmTable setting={page.answer} rows={rows} frames={frames} seen={seen} onJump={jump} />}
      </div>
    </BoxesContext>
  )
}
