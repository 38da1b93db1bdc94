/** Known pictures that the model gets wrong, the surest first. */
import { useCallback } from 'react'
import { type KnownAnswer, type KnownPicture } from './knownPictures'

const MISSES_SHOWN = 60

export function Misses({ misses }: { misses: KnownAnswer[] }) {
  if (!misses.length) return null
  return (
    <>
      <h4 className="mt-4 font-bold">What it gets wrong, the surest first</h4>
      <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(7.5rem,1fr))] gap-3">
        {misses.slice(0, MISSES_SHOWN).map((miss) => (
          <li key={`${miss.picture.outcome}/${miss.picture.name}`} className="text-[0.86em]">
            <Thumbnail picture={miss.picture} />
            <p>{miss.picture.outcome}</p>
            <p className="text-caution">
              {miss.said === null ? miss.problem : `said: ${miss.said}, ${Math.round(miss.probability * 100)} of 100`}
            </p>
          </li>
        ))}
      </ul>
      {misses.length > MISSES_SHOWN && <p className="mt-2 text-soft">and {misses.length - MISSES_SHOWN} more</p>}
    </>
  )
}

function Thumbnail({ picture }: { picture: KnownPicture }) {
  // An address of a blob must be given back.
  const show = useCallback(
    (image: HTMLImageElement) => {
      image.src = URL.createObjectURL(picture.file)
      return () => URL.revokeObjectURL(image.src)
    },
    [picture.file],
  )
  return <img ref={show} alt={picture.name} className="aspect-square w-full object-cover" />
}
