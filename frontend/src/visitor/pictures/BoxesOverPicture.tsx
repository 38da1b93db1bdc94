/** Boxes over the picture: each with its kind's mark and its number in the list; pressed, it is looked at there too. On paper only seen. */
import { useContext } from 'react'
import type { PictureValue } from '../../api/picture'
import { placeInView } from '../../domain/boxes'
import { InlineMark } from '../../parts/Mark'
import { BoxesContext, markOfBox } from './boxesView'

/** From here down a tag above the box would leave the picture. */
const ROOM_ABOVE = 0.07

export function BoxesOverPicture({ picture, onPaper = false }: { picture: PictureValue; onPaper?: boolean }) {
  const view = useContext(BoxesContext)
  if (!view) return null
  const { answer, setting, shown, chosen, onChoose } = view
  return (
    // Everything here is in the list beside it, in an order that can be read and pressed.
    <span className="absolute inset-0 block" aria-hidden="true" data-testid={onPaper ? 'paper-boxes' : 'boxes'}>
      {[...shown].reverse().map(({ number, box }) => {
        const place = placeInView(box, answer, picture.cut, picture.turn)
        if (!place) return null
        const mark = markOfBox(setting, box.name)
        const isChosen = number === chosen
        const style = { left: percent(place.left), top: percent(place.top), width: percent(place.width), height: percent(place.height), borderColor: mark.colour }
        const tag = (
          <span className="found-box-tag" style={{ borderColor: mark.colour }} data-below={place.top < ROOM_ABOVE}>
            <InlineMark {...mark} /> {number}
          </span>
        )
        if (onPaper) {
          return (
            <span key={number} className="paper-box" style={style}>
              {tag}
            </span>
          )
        }
        return (
          <button
            key={number}
            type="button"
            tabIndex={-1}
            data-box={number}
            data-chosen={isChosen}
            data-other={chosen !== null && !isChosen}
            className="found-box"
            style={style}
            onClick={() => onChoose(isChosen ? null : number)}
          >
            {tag}
          </button>
        )
      })}
    </span>
  )
}

function percent(share: number): string {
  return `${(100 * share).toFixed(3)}%`
}
