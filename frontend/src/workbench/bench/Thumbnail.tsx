/** A picture of the author's own, small. */
import { useCallback } from 'react'

export interface ThumbnailProps {
  file: Blob
  name: string
  className?: string
}

export function Thumbnail({ file, name, className = 'aspect-square w-full object-cover' }: ThumbnailProps) {
  // An address of a blob must be given back.
  const show = useCallback(
    (image: HTMLImageElement) => {
      image.src = URL.createObjectURL(file)
      return () => URL.revokeObjectURL(image.src)
    },
    [file],
  )
  return <img ref={show} alt={name} className={className} />
}
