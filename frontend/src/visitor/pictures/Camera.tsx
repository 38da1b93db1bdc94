/** The camera, with a shutter. */
import { useEffect, useRef, useState } from 'react'

export interface CameraProps {
  onTake: (picture: File) => void
  onLeave: () => void
}

const JPEG_QUALITY = 0.92

export function Camera({ onTake, onLeave }: CameraProps) {
  const video = useRef<HTMLVideoElement>(null)
  const [state, setState] = useState<'asking' | 'ready' | 'refused'>('asking')
  // The camera is outside React, and must be let go of.
  useEffect(() => {
    let stream: MediaStream | null = null
    let isWanted = true
    const begin = async () => {
      try {
        stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } })
        if (!isWanted || !video.current) return stop(stream)
        video.current.srcObject = stream
        await video.current.play()
        setState('ready')
      } catch {
        if (isWanted) setState('refused')
      }
    }
    void begin()
    return () => {
      isWanted = false
      stop(stream)
    }
  }, [])

  const take = () => {
    const from = video.current
    if (!from) return
    const canvas = document.createElement('canvas')
    canvas.width = from.videoWidth
    canvas.height = from.videoHeight
    canvas.getContext('2d')?.drawImage(from, 0, 0)
    canvas.toBlob((blob) => blob && onTake(new File([blob], 'camera.jpg', { type: 'image/jpeg' })), 'image/jpeg', JPEG_QUALITY)
  }

  return (
    <div className="absolute inset-0 flex flex-col" onKeyDown={(event) => event.key === 'Escape' && onLeave()}>
      {state === 'refused' ? (
        <p role="status" className="grid flex-1 place-items-center p-6 text-caution">
          The camera cannot be used here: it is missing, busy, or was not allowed. Choose a picture instead.
        </p>
      ) : (
        <video ref={video} muted playsInline className="min-h-0 w-full flex-1 bg-line object-contain" aria-label="What the camera sees" />
      )}
      <div className="flex gap-3 border-t border-line bg-paper px-3 py-2 text-[0.88em]">
        {state !== 'refused' && (
          <button type="button" className="button-primary" autoFocus aria-disabled={state !== 'ready'} onClick={() => state === 'ready' && take()}>
            Take the picture
          </button>
        )}
        <button type="button" className="button-plain" autoFocus={state === 'refused'} onClick={onLeave}>
          Cancel
        </button>
      </div>
    </div>
  )
}

function stop(stream: MediaStream | null): void {
  for (const track of stream?.getTracks() ?? []) track.stop()
}
