/** From a picture to what a model was trained on: `core/pictures/preparation.py` once more, to the bit. */
import { asGrey, roundedToEven, type Pixels } from './pixels'
import { resized, type Part } from './resizing'

/** How a picture becomes a model's input, as the API says it of a field. */
export interface Preparation {
  width: number
  height: number
  own_size: boolean
  multiple: number
  fit: 'stretch' | 'border' | 'crop'
  border: readonly number[]
  colour: 'colour' | 'grey'
  trained_on: 'any' | 'light on dark' | 'dark on light'
  scale: '0..255' | '0..1' | '-1..1' | 'spread'
  mean: readonly number[]
  spread: readonly number[]
  order: 'rgb' | 'bgr'
  layout: 'channels first' | 'channels last' | 'flat'
  batch: boolean
}

/** Which part of a picture is resized to what, and where that stands in the picture a model sees; all in pixels. */
export interface Placement {
  part: Part
  size: [number, number]
  at: [number, number]
}

/** In thousandths. */
const GREY_WEIGHTS = [299, 587, 114]
/** To tell what is drawn from its ground a picture is looked at this small. */
const LOOKED_AT_SIDE = 32
const FLAT = 0.5

/** The picture as the model will see it. */
export function asSeen(picture: Pixels, preparation: Preparation): Pixels {
  const fit = fitted(picture, preparation)
  const seen = preparation.colour === 'grey' ? weighedGrey(fit) : fit
  if (!isTurned(picture, preparation)) return seen
  return { ...seen, data: seen.data.map((value) => 255 - value) }
}

/** What `asSeen` gave as the model's input, in the layout that is stated, with its shape. */
export function asInput({ width, height, channels, data }: Pixels, preparation: Preparation): { data: Float32Array; shape: number[] } {
  const out = new Float32Array(data.length)
  const isReversed = preparation.order === 'bgr' && channels === 3
  for (let at = 0; at < width * height; at++) {
    for (let channel = 0; channel < channels; channel++) {
      const value = scaled(data[at * channels + (isReversed ? 2 - channel : channel)], channel, preparation)
      out[preparation.layout === 'channels first' ? channel * width * height + at : at * channels + channel] = value
    }
  }
  const shape = preparation.layout === 'flat' ? [out.length] : preparation.layout === 'channels first' ? [channels, height, width] : [height, width, channels]
  return { data: out, shape: preparation.batch ? [1, ...shape] : shape }
}

function scaled(value: number, channel: number, { scale, mean, spread }: Preparation): number {
  switch (scale) {
    case '0..255':
      return value
    case '-1..1':
      return value / 127.5 - 1
    case 'spread':
      return (value / 255 - mean[channel]) / spread[channel]
    case '0..1':
      return value / 255
  }
}

function weighedGrey({ width, height, data }: Pixels): Pixels {
  const grey = new Uint8Array(width * height)
  const [red, green, blue] = GREY_WEIGHTS
  for (let at = 0, from = 0; at < grey.length; at++, from += 3) grey[at] = roundedToEven((data[from] * red + data[from + 1] * green + data[from + 2] * blue) / 1000)
  return { width, height, channels: 1, data: grey }
}

/** Width and height of what a model sees of a picture of this size. */
export function sizeSeen(width: number, height: number, preparation: Preparation): [number, number] {
  if (!preparation.own_size) return [preparation.width, preparation.height]
  const step = preparation.multiple
  const [own, down] = ownSize(width, height, preparation)
  return [Math.ceil(own / step) * step, Math.ceil(down / step) * step]
}

function ownSize(width: number, height: number, preparation: Preparation): [number, number] {
  const step = preparation.multiple
  const most = (side: number) => Math.max(step, Math.floor(side / step) * step)
  const share = Math.min(1, most(preparation.width) / width, most(preparation.height) / height)
  return [Math.max(1, roundedToEven(width * share)), Math.max(1, roundedToEven(height * share))]
}

/** How a picture of this size is fitted to what a model was trained on. */
export function placed(width: number, height: number, preparation: Preparation): Placement {
  const [across, down] = sizeSeen(width, height, preparation)
  const whole: Part = [0, 0, width, height]
  if (preparation.own_size) return { part: whole, size: ownSize(width, height, preparation), at: [0, 0] }
  if ((width === across && height === down) || preparation.fit === 'stretch') return { part: whole, size: [across, down], at: [0, 0] }
  const shares = [across / width, down / height]
  if (preparation.fit === 'border') {
    const share = Math.min(...shares)
    const inside: [number, number] = [Math.min(Math.max(1, roundedToEven(width * share)), across), Math.min(Math.max(1, roundedToEven(height * share)), down)]
    return { part: whole, size: inside, at: [Math.floor((across - inside[0]) / 2), Math.floor((down - inside[1]) / 2)] }
  }
  const share = Math.max(...shares)
  const [ownAcross, ownDown] = [across / share, down / share]
  const [left, top] = [(width - ownAcross) / 2, (height - ownDown) / 2]
  return { part: [Math.max(0, left), Math.max(0, top), Math.min(width, left + ownAcross), Math.min(height, top + ownDown)], size: [across, down], at: [0, 0] }
}

/** The picture in the size that is stated; one that has it already is not touched. */
export function fitted(picture: Pixels, preparation: Preparation): Pixels {
  const [width, height] = sizeSeen(picture.width, picture.height, preparation)
  if (picture.width === width && picture.height === height) return picture
  const { part, size, at } = placed(picture.width, picture.height, preparation)
  if (preparation.fit === 'crop' && !preparation.own_size) return resized(picture, width, height, 'bilinear', part)
  const inside = resized(picture, size[0], size[1], 'bilinear')
  if (preparation.own_size) return laid(inside, width, height, [0, 0], (x, y, channel) => inside.data[(Math.min(y, inside.height - 1) * inside.width + Math.min(x, inside.width - 1)) * 3 + channel])
  if (preparation.fit === 'stretch') return inside
  return laid(inside, width, height, at, (_x, _y, channel) => preparation.border[channel])
}

/** A picture within a larger one; `beyond` gives what stands around it. */
function laid(inside: Pixels, width: number, height: number, [left, top]: [number, number], beyond: (x: number, y: number, channel: number) => number): Pixels {
  const data = new Uint8Array(3 * width * height)
  let to = 0
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const isInside = x >= left && y >= top && x < left + inside.width && y < top + inside.height
      const from = ((y - top) * inside.width + x - left) * 3
      for (let channel = 0; channel < 3; channel++, to++) data[to] = isInside ? inside.data[from + channel] : beyond(x, y, channel)
    }
  }
  return { width, height, channels: 3, data }
}

function isTurned(picture: Pixels, { trained_on }: Preparation): boolean {
  return trained_on !== 'any' && isLightOnDark(picture) !== (trained_on === 'light on dark')
}

/** Whether what is drawn is lighter than the ground, which is what lies along the picture's edge. */
export function isLightOnDark(picture: Pixels): boolean {
  const { data } = resized(asGrey(picture), LOOKED_AT_SIDE, LOOKED_AT_SIDE, 'box')
  const last = LOOKED_AT_SIDE - 1
  const edge = [...data].filter((_, at) => at < LOOKED_AT_SIDE || at >= last * LOOKED_AT_SIDE || at % LOOKED_AT_SIDE === 0 || at % LOOKED_AT_SIDE === last)
  const ground = median(edge)
  const off = data.reduce((sum, value) => sum + value, 0) / data.length - ground
  return Math.abs(off) > FLAT ? off > 0 : ground < 128
}

function median(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  const middle = sorted.length / 2
  return sorted.length % 2 ? sorted[Math.floor(middle)] : (sorted[middle - 1] + sorted[middle]) / 2
}
