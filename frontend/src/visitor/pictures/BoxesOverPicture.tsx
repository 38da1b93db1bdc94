/** Boxes over the picture: each with its kind's mark and its number in the list; pressed, it is looked at there too. */
import { useContext } from 'react'
import type { PictureValue } from '../../api/picture'
import { placeInView } from '../../domain/boxes'
import { InlineMark } from '../../parts/Mark'
import { BoxesContext, markOfBox } from './boxesView'

/** From here down a tag above the box would leave the picture. */
const ROOM_ABOVE = 0.07

export function BoxesOverPicture({ picture }: { picture: PictureValue }) {
  const view = useContext(BoxesContext)
  if (!view) return null
  const { answer, setting, shown, chosen, onChoose } = view
  return (
    // Everything here is in the list beside it, in an order that can be read and pressed.
    <div className="absolute inset-0" aria-hidden="true" data-testid="boxes">
      {[...shown].reverse().map(({ number, box }) => {
        const place = placeInView(box, answer, picture.cut, picture.turn)
        if (!place) return null
        const mark = markOfBox(setting, box.name)
        const isChosen = number === chosen
        return (
          <button
            key={number}
            type="button"
            tabIndex={-1}
            data-box={number}
            data-chosen={isChosen}
            data-other={chosen !== null && !isChosen}
            className="found-box"
            style={{ left: percent(place.left), top: percent(place.top), width: percent(place.width), height: percent(place.height), borderColor: mark.colour }}
            onClick={() => onChoose(isChosen ? null : number)}
          >
            <span className="found-box-tag" style={{ borderColor: mark.colour }} data-below={place.top < ROOM_ABOVE}>
              <InlineMark {...mark} /> {number}
            </span>
          </button>
        )
      })}
    </div>
  )
}

function percent(share: number): string {
  return `${(100 * share).toFixed(3)}%`
}
