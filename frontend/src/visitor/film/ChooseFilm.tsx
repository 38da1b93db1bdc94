/** Where a film comes in: chosen, or one of the ready ones; or the camera. */
import { useId } from 'react'

export interface ChooseFilmProps {
  onFile: (film: File) => void
  onCamera: () => void
  /** Titles of ready ones. */
  ready: string[]
  onReady: (place: number) => void
  /** About how many frames of a second are asked about. */
  rate: number
}

const FILMS = 'video/*,.mp4,.mov,.webm,.mkv,.avi,.mpg,.ts,.gif'

export function ChooseFilm({ onFile, onCamera, ready, onReady, rate }: ChooseFilmProps) {
  const id = useId()
  return (
    <p className="mt-1 max-w-[70ch]">
      <label htmlFor={id} className="button-quiet cursor-pointer">
        Choose a film
        <input id={id} type="file" accept={FILMS} className="sr-only" onChange={({ target }) => (target.files?.[0] && onFile(target.files[0]), (target.value = ''))} />
      </label>
      , drop one anywhere on this page,{' '}
      {ready.map((title, at) => (
        <span key={title}>
          see{' '}
          <button type="button" className="button-quiet" onClick={() => onReady(at)}>
            {title}
          </button>
          ,{' '}
        </span>
      ))}
      or{' '}
      <button type="button" className="button-quiet" onClick={onCamera}>
        use the camera
      </button>
      . <span className="text-soft">About {rateText(rate)} asked about, and the answers come while the film is looked at.</span>
    </p>
  )
}

/** "5 frames of each second are", "1 frame every 4 seconds is". */
function rateText(rate: number): string {
  if (rate < 1) return `1 frame every ${Math.round(1 / rate)} seconds is`
  const frames = Number(rate.toFixed(1))
  return `${frames} ${frames === 1 ? 'frame' : 'frames'} of each second ${frames === 1 ? 'is' : 'are'}`
}
