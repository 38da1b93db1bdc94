/** A picture as it was given: what is cut out of it, turned. `core/pictures/preparer.py` once more, to the bit. */
import { roundedToEven, type Pixels } from './pixels'

/** In shares of the upright picture, before it is turned clockwise. */
export interface Cut {
  left: number
  top: number
  width: number
  height: number
}

export type Turn = 0 | 90 | 180 | 270

/** What counts of a picture. */
export function cutAndTurned(picture: Pixels, cut: Cut, turn: Turn): Pixels {
  const [left, top, right, bottom] = cutBox(picture, cut)
  const isWhole = left === 0 && top === 0 && right === picture.width && bottom === picture.height
  const part = isWhole ? picture : taken(picture, right - left, bottom - top, (x, y) => [left + x, top + y])
  const { width, height } = part
  switch (turn) {
    case 0:
      return part
    case 90:
      return taken(part, height, width, (x, y) => [y, height - 1 - x])
    case 180:
      return taken(part, width, height, (x, y) => [width - 1 - x, height - 1 - y])
    case 270:
      return taken(part, height, width, (x, y) => [width - 1 - y, x])
  }
}

/** Left, top, right and bottom in pixels; never nothing. */
function cutBox({ width, height }: Pixels, cut: Cut): [number, number, number, number] {
  const left = Math.min(roundedToEven(cut.left * width), width - 1)
  const top = Math.min(roundedToEven(cut.top * height), height - 1)
  const right = roundedToEven(Math.min(1, cut.left + cut.width) * width)
  const bottom = roundedToEven(Math.min(1, cut.top + cut.height) * height)
  return [left, top, Math.max(right, left + 1), Math.max(bottom, top + 1)]
}

/** A picture each of whose pixels is one of another, at the place that `placeOf` gives. */
function taken({ width: across, channels, data }: Pixels, width: number, height: number, placeOf: (x: number, y: number) => [number, number]): Pixels {
  const own = new Uint8Array(width * height * channels)
  let to = 0
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [fromX, fromY] = placeOf(x, y)
      const from = (fromY * across + fromX) * channels
      for (let channel = 0; channel < channels; channel++, to++) own[to] = data[from + channel]
    }
  }
  return { width, height, channels, data: own }
}
