/** Known pictures that the model gets wrong, the surest first. */
import { Thumbnail } from '../bench/Thumbnail'
import { ofHundred } from '../../domain/ofHundred'
import { type KnownAnswer } from './knownPictures'

const MISSES_SHOWN = 60

export function Misses({ misses }: { misses: KnownAnswer[] }) {
  if (!misses.length) return null
  return (
    <>
      <h4 className="mt-4 font-bold">What it gets wrong, the surest first</h4>
      <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(7.5rem,1fr))] gap-3">
        {misses.slice(0, MISSES_SHOWN).map((miss) => (
          <li key={`${miss.picture.outcome}/${miss.picture.name}`} className="text-[0.86em]">
            <Thumbnail file={miss.picture.file} name={miss.picture.name} />
            <p>{miss.picture.outcome}</p>
            <p className="text-caution">
              {miss.said === null ? miss.problem : `said: ${miss.said}, ${ofHundred(miss.probability)} of 100`}
            </p>
          </li>
        ))}
      </ul>
      {misses.length > MISSES_SHOWN && <p className="mt-2 text-soft">and {misses.length - MISSES_SHOWN} more</p>}
    </>
  )
}
