/** A mask drawn in its kinds' colours, with lines of their own and an edge around each. */
import { colourOfKind, hatchingOf, isOnLine } from '../../domain/kindColours'

/** How strong a kind's colour is, and its lines and edges, of 255. */
const WEAK = 150
const STRONG = 235

/** Draw a mask whose red values are the kinds' places; `off` and `nothing` are left clear. */
export function drawMask(canvas: HTMLCanvasElement, mask: ImageBitmap, off: ReadonlySet<number>, nothing: number): void {
  const { width, height } = mask
  canvas.width = width
  canvas.height = height
  const context = canvas.getContext('2d', { willReadFrequently: true })
  if (!context) return
  context.imageSmoothingEnabled = false
  context.drawImage(mask, 0, 0)
  const image = context.getImageData(0, 0, width, height)
  const places = Uint8Array.from({ length: width * height }, (_, at) => image.data[4 * at] ?? 0)
  const colours = Array.from({ length: 256 }, (_, place) => colourOfKind(place))
  for (let at = 0; at < places.length; at += 1) {
    const place = places[at]!
    const [x, y] = [at % width, Math.floor(at / width)]
    if (off.has(place) || place === nothing) {
      image.data[4 * at + 3] = 0
      continue
    }
    const [red, green, blue] = colours[place]!
    const isEdge = (x > 0 && places[at - 1] !== place) || (y > 0 && places[at - width] !== place)
    image.data[4 * at] = red
    image.data[4 * at + 1] = green
    image.data[4 * at + 2] = blue
    image.data[4 * at + 3] = isEdge || isOnLine(hatchingOf(place), x, y) ? STRONG : WEAK
  }
  context.putImageData(image, 0, 0)
}
