/** An answer's picture, on its part of the frame it stands in. */
import { useEffect, useRef } from 'react'

export interface PixelsProps {
  image: ImageBitmap
  /** Which part of the frame it fills. */
  part: Part
  label: string
}

export interface Part {
  left?: number
  top?: number
  width?: number
  height?: number
}

export function Pixels({ image, part, label }: PixelsProps) {
  const canvas = useRef<HTMLCanvasElement>(null)
  // A canvas is drawn on by hand.
  useEffect(() => {
    if (!canvas.current) return
    canvas.current.width = image.width
    canvas.current.height = image.height
    canvas.current.getContext('2d')?.drawImage(image, 0, 0)
  }, [image])
  return <canvas ref={canvas} role="img" aria-label={label} className="absolute" style={placeOf(part)} data-testid="made" />
}

export function placeOf({ left = 0, top = 0, width = 1, height = 1 }: Part) {
  return { left: `${100 * left}%`, top: `${100 * top}%`, width: `${100 * width}%`, height: `${100 * height}%` }
}
