/** What the camera sees, asked about as it goes; pictures are dropped rather than answered late. */
import { useEffect, useRef, useState } from 'react'
import type { Inputs, Page } from '../../api/client'
import { WHOLE } from '../../api/picture'
import { momentWords } from '../../domain/films'
import { BoxesOverPicture } from '../pictures/BoxesOverPicture'
import { BoxesContext } from '../pictures/boxesView'
import { FilmBoxes } from './FilmBoxes'
import { FilmLayout } from './FilmLayout'
import { FilmPane } from './FilmPane'
import { FilmStrips } from './FilmStrips'
import { askLive, LIVE_SECONDS, NOTHING_LIVE, rowsOf, type LiveState } from './liveAsking'
import { useSeen } from './useSeen'

export interface LiveCameraProps {
  page: Page
  isDraft: boolean
  inputs: Inputs
  onLeave: () => void
}

const STILL = { cut: WHOLE, turn: 0 } as const
/** What is asked and answered within a second counts as now. */
const LATE_SECONDS = 1

export function LiveCamera({ page, isDraft, inputs, onLeave }: LiveCameraProps) {
  const [facing, setFacing] = useState<'environment' | 'user'>('environment')
  const { video, live, isRefused } = useLive(page, isDraft, inputs, facing)
  const { seen, viewOf } = useSeen(page)
  const frame = live.frames.at(-1) ?? null
  const view = live.size ? viewOf(frame, live.size) : null
  const now = frame?.at ?? 0
  const rows = rowsOf(page.answer)
  const shape = live.size ? live.size.width / live.size.height : 4 / 3
  if (isRefused) {
    return (
      <div className="mt-2">
        <p role="status" className="text-caution">
          The camera cannot be used here: it is missing, busy, or was not allowed. Choose a film instead.
        </p>
        <button type="button" className="button-quiet mt-2" onClick={onLeave}>
          Back
        </button>
      </div>
    )
  }
  return (
    <BoxesContext value={view}>
      <div className="mt-2" data-testid="live">
        <FilmLayout
          pane={
            <FilmPane shape={shape}>
              <video ref={video} muted playsInline className="absolute inset-0 h-full w-full" aria-label="What the camera sees" />
              <span className="film-boxes">
                <BoxesOverPicture picture={STILL} />
              </span>
            </FilmPane>
          }
          moment={
            <>
              <p className="mt-2 min-h-[3em] text-[1.2em] leading-snug font-bold" data-testid="moment">
                {frame ? momentWords(page.answer, rows, frame, seen) : 'Looking…'}
              </p>
              <p role="status" className="min-h-[1.5em] text-soft">
                {live.trouble || (live.late > LATE_SECONDS ? `What is said is ${Math.round(live.late)} seconds old: the model takes that long.` : '')}
              </p>
            </>
          }
          strips={rows.length > 0 && <FilmStrips setting={page.answer} rows={rows} frames={live.frames} from={Math.max(0, now - LIVE_SECONDS)} lasts={Math.max(LIVE_SECONDS, now)} seconds={now} seen={seen} />}
          aside={
            <>
              <FilmBoxes />
              <p className="mt-2 flex gap-x-5">
                <button type="button" className="button-quiet" onClick={onLeave}>
                  Stop the camera
                </button>
                <button type="button" className="button-quiet" onClick={() => setFacing(facing === 'user' ? 'environment' : 'user')}>
                  The other camera
                </button>
              </p>
            </>
          }
        />
      </div>
    </BoxesContext>
  )
}

function useLive(page: Page, isDraft: boolean, inputs: Inputs, facing: 'environment' | 'user') {
  const video = useRef<HTMLVideoElement>(null)
  const [live, setLive] = useState<LiveState>(NOTHING_LIVE)
  const [isRefused, setIsRefused] = useState(false)
  const others = JSON.stringify(inputs)
  // The camera is outside React, and must be let go of.
  useEffect(() => {
    const control = new AbortController()
    let stream: MediaStream | null = null
    const begin = async () => {
      let player: HTMLVideoElement | null
      try {
        stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: facing } })
        player = video.current
        if (control.signal.aborted || !player) return stop(stream)
        player.srcObject = stream
        await player.play()
      } catch {
        if (!control.signal.aborted) setIsRefused(true)
        return
      }
      const field = page.fields.find((one) => one.kind === 'picture')?.name ?? 'picture'
      const wanted = { slug: page.slug, isDraft, inputs: JSON.parse(others) as Inputs, field, rate: page.film_rate ?? 5, setting: page.answer }
      await askLive(player, wanted, control.signal, setLive)
    }
    void begin()
    return () => {
      control.abort()
      stop(stream)
      setLive(NOTHING_LIVE)
    }
  }, [page, isDraft, others, facing])
  return { video, live, isRefused }
}

function stop(stream: MediaStream | null): void {
  for (const track of stream?.getTracks() ?? []) track.stop()
}
