/** The film as this browser plays it, with boxes over it. */
import { useEffect, useEffectEvent, type Ref, type RefObject } from 'react'
import type { JobView } from '../../api/client'
import { WHOLE } from '../../api/picture'
import { FilmPane } from './FilmPane'
import { BoxesOverPicture } from '../pictures/BoxesOverPicture'
import type { Playable } from './usePlayable'

export interface FilmPlayerProps {
  ref: RefObject<HTMLVideoElement | null>
  playable: Playable
  film: JobView['film'] | null
  onTime: (seconds: number) => void
  onLength: (seconds: number) => void
}

const STILL = { cut: WHOLE, turn: 0 } as const

export function FilmPlayer({ ref, playable, film, onTime, onLength }: FilmPlayerProps) {
  const { address, isUnplayable, onUnplayable, make, said } = playable
  const shape = film ? film.width / film.height : 16 / 9
  useEveryFrame(ref, onTime)
  return (
    <FilmPane shape={shape}>
        <video
          ref={ref as Ref<HTMLVideoElement>}
          src={address}
          controls
          muted
          playsInline
          preload="auto"
          className="absolute inset-0 h-full w-full"
          aria-label="The film"
          onLoadedMetadata={({ currentTarget }) => Number.isFinite(currentTarget.duration) && onLength(currentTarget.duration)}
          onSeeked={({ currentTarget }) => onTime(currentTarget.currentTime)}
          onTimeUpdate={({ currentTarget }) => onTime(currentTarget.currentTime)}
          onError={onUnplayable}
        />
        {!isUnplayable && (
          <span className="film-boxes">
            <BoxesOverPicture picture={STILL} />
          </span>
        )}
        {isUnplayable && (
          <div className="absolute inset-0 grid place-content-center gap-2 bg-paper p-6">
            <p className="text-caution">This browser cannot play this kind of film. It is looked at all the same, and the strips below tell what is found when.</p>
            {make && (
              <p>
                <button type="button" className="button-quiet" onClick={make}>
                  Make it one that this browser plays
                </button>
              </p>
            )}
            <p role="status" className="text-soft empty:hidden">
              {said}
            </p>
          </div>
        )}
    </FilmPane>
  )
}

/** The time of each frame that is shown: a player's own news come four times a second only. */
function useEveryFrame(ref: RefObject<HTMLVideoElement | null>, onTime: (seconds: number) => void): void {
  const tell = useEffectEvent(onTime)
  // What a player shows is outside React.
  useEffect(() => {
    const player = ref.current
    if (!player || !('requestVideoFrameCallback' in player)) return
    let asked = 0
    const next = (_: number, { mediaTime }: VideoFrameCallbackMetadata) => {
      tell(mediaTime)
      asked = player.requestVideoFrameCallback(next)
    }
    asked = player.requestVideoFrameCallback(next)
    return () => player.cancelVideoFrameCallback(asked)
  }, [ref])
}
