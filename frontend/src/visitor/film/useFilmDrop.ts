/** A film that is dropped anywhere on the page is meant for its section; every other file is left to the form. */
import { useEffect, useEffectEvent } from 'react'

/** Some systems have no type for these. */
const FILM_NAMES = /\.(mp4|m4v|mov|webm|mkv|avi|mpe?g|m?ts|ogv|flv|wmv|3gp)$/i

export function useFilmDrop(onFilm: (film: File) => void): void {
  const take = useEffectEvent(onFilm)
  // The page around this section is outside React's reach.
  useEffect(() => {
    const drop = (event: DragEvent) => {
      const file = event.dataTransfer?.files[0]
      if (!file || !(file.type.startsWith('video/') || FILM_NAMES.test(file.name))) return
      event.preventDefault()
      event.stopPropagation()
      // Whoever has shown that a file is held over it learns that it is gone.
      window.dispatchEvent(new DragEvent('dragleave'))
      take(file)
    }
    // Before the form hears of it.
    window.addEventListener('drop', drop, true)
    return () => window.removeEventListener('drop', drop, true)
  }, [])
}
