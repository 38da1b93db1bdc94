/** A file's content as upright colour pixels, decoded by the browser; or a sentence about why not. */
import { withoutAlpha, type Pixels } from '../../runtime/pictures/pixels'
import { PictureNotRead, statedOf } from './stated'

const MOST_PIXELS = 50_000_000

export interface Decoded {
  pixels: Pixels
  /** What a visitor should know was done to it. */
  notes: string[]
}

/** `behind` is the colour that see-through places are laid on. Throws `PictureNotRead`. */
export async function decoded(file: Blob, behind: readonly number[]): Promise<Decoded> {
  const { kind, size, isMoving } = statedOf(new Uint8Array(await file.arrayBuffer()))
  refuseLarge(size)
  const image = await createImageBitmap(file, { imageOrientation: 'from-image', colorSpaceConversion: 'none' }).catch(() => null)
  if (!image) {
    throw new PictureNotRead(kind === 'TIFF' ? 'This browser cannot read TIFF pictures. Save it as PNG first.' : 'This picture is cut off or damaged. Try it once more, or another one.')
  }
  refuseLarge([image.width, image.height])
  const pixels = pixelsOf(image, behind)
  image.close()
  return { pixels, notes: isMoving ? ['Of a moving picture the first frame is taken.'] : [] }
}

function refuseLarge(size: [number, number] | null): void {
  if (size && size[0] * size[1] > MOST_PIXELS) {
    throw new PictureNotRead(`This picture has ${size[0]} × ${size[1]} pixels; the limit is ${MOST_PIXELS / 1_000_000} million in all. Try a smaller one.`)
  }
}

function pixelsOf(image: ImageBitmap, behind: readonly number[]): Pixels {
  const { width, height } = image
  const canvas = new OffscreenCanvas(width, height)
  const context = canvas.getContext('2d', { willReadFrequently: true })
  if (!context) throw new PictureNotRead('This picture is too large to be prepared here. Try a smaller one.')
  context.fillStyle = `rgb(${behind.join(' ')})`
  context.fillRect(0, 0, width, height)
  context.drawImage(image, 0, 0)
  return withoutAlpha(context.getImageData(0, 0, width, height))
}

/** What the model sees, as PNG for people to look at. */
export async function asShown({ width, height, channels, data }: Pixels, mostSide: number): Promise<string> {
  const canvas = new OffscreenCanvas(width, height)
  const own = new Uint8ClampedArray(4 * width * height)
  for (let at = 0; at < width * height; at++) {
    for (let channel = 0; channel < 3; channel++) own[4 * at + channel] = data[at * channels + (channels === 1 ? 0 : channel)]
    own[4 * at + 3] = 255
  }
  canvas.getContext('2d')?.putImageData(new ImageData(own, width, height), 0, 0)
  const share = Math.min(1, mostSide / Math.max(width, height))
  return addressOf(await (share < 1 ? smaller(canvas, Math.max(1, Math.round(width * share)), Math.max(1, Math.round(height * share))) : canvas).convertToBlob({ type: 'image/png' }))
}

function smaller(canvas: OffscreenCanvas, width: number, height: number): OffscreenCanvas {
  const own = new OffscreenCanvas(width, height)
  const context = own.getContext('2d')
  if (context) {
    context.imageSmoothingQuality = 'high'
    context.drawImage(canvas, 0, 0, width, height)
  }
  return own
}

async function addressOf(blob: Blob): Promise<string> {
  const bytes = new Uint8Array(await blob.arrayBuffer())
  let text = ''
  for (let at = 0; at < bytes.length; at += 4096) text += String.fromCharCode(...bytes.subarray(at, at + 4096))
  return `data:${blob.type};base64,${btoa(text)}`
}
