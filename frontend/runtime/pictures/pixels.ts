/** Pictures as numbers: eight bits a channel, row by row, the channels of a pixel beside each other. */

export interface Pixels {
  width: number
  height: number
  /** 3 for red, green and blue, 1 for grey. */
  channels: number
  data: Uint8Array
}

/** Of what a canvas gives the colours, without how see-through they are. */
export function withoutAlpha({ width, height, data }: { width: number; height: number; data: Uint8ClampedArray }): Pixels {
  const own = new Uint8Array(3 * width * height)
  for (let at = 0, from = 0; at < own.length; at += 3, from += 4) {
    own[at] = data[from]
    own[at + 1] = data[from + 1]
    own[at + 2] = data[from + 2]
  }
  return { width, height, channels: 3, data: own }
}

/** Brightness by the weights of ITU-R BT.601, in whole numbers as Pillow's `convert("L")` has it. */
export function asGrey({ width, height, data }: Pixels): Pixels {
  const grey = new Uint8Array(width * height)
  for (let at = 0, from = 0; at < grey.length; at++, from += 3) grey[at] = (data[from] * 19595 + data[from + 1] * 38470 + data[from + 2] * 7471 + 0x8000) >> 16
  return { width, height, channels: 1, data: grey }
}

/** To the next whole number, from the middle to the even one. */
export function roundedToEven(value: number): number {
  const low = Math.floor(value)
  const over = value - low
  if (over === 0.5) return low % 2 === 0 ? low : low + 1
  return over < 0.5 ? low : low + 1
}
