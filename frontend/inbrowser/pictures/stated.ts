/** What a picture's file says of itself, before anything is decoded: its kind, its size, whether it moves. */

export type Kind = 'JPEG' | 'PNG' | 'WEBP' | 'GIF' | 'BMP' | 'TIFF'

export interface Stated {
  kind: Kind
  /** Width and height; null where the file does not say them in front. */
  size: [number, number] | null
  isMoving: boolean
}

/** A picture that cannot be read, with a sentence for its visitor. */
export class PictureNotRead extends Error {
  override name = 'PictureNotRead'
}

const HEIC_BRANDS = new Set(['heic', 'heix', 'hevc', 'heim', 'heis', 'mif1', 'msf1'])
const HEAD_BYTES = 512
/** Of a JPEG: the marks of the parts that say how large it is. */
const FRAME_MARKS = new Set([0xc0, 0xc1, 0xc2, 0xc3, 0xc5, 0xc6, 0xc7, 0xc9, 0xca, 0xcb, 0xcd, 0xce, 0xcf])

/** Throws `PictureNotRead`. */
export function statedOf(bytes: Uint8Array): Stated {
  if (bytes.length === 0) throw new PictureNotRead('The picture is empty. Choose another.')
  refuseKnownStrangers(bytes)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  try {
    return statedByKind(bytes, view)
  } catch (error) {
    if (error instanceof RangeError) throw new PictureNotRead('This picture is cut off or damaged. Try it once more, or another one.')
    throw error
  }
}

function statedByKind(bytes: Uint8Array, view: DataView): Stated {
  if (startsWith(bytes, '\xff\xd8\xff')) return { kind: 'JPEG', size: sizeOfJpeg(view), isMoving: false }
  if (startsWith(bytes, '\x89PNG\r\n\x1a\n')) return { kind: 'PNG', size: [view.getUint32(16), view.getUint32(20)], isMoving: movesInPng(bytes, view) }
  if (startsWith(bytes, 'GIF87a') || startsWith(bytes, 'GIF89a')) return { kind: 'GIF', size: [view.getUint16(6, true), view.getUint16(8, true)], isMoving: movesInGif(bytes) }
  if (startsWith(bytes, 'BM')) return { kind: 'BMP', size: [Math.abs(view.getInt32(18, true)), Math.abs(view.getInt32(22, true))], isMoving: false }
  if (startsWith(bytes, 'RIFF') && textAt(bytes, 8, 4) === 'WEBP') {
    return { kind: 'WEBP', size: sizeOfWebp(bytes, view), isMoving: textAt(bytes, 12, 4) === 'VP8X' && (view.getUint8(20) & 2) > 0 }
  }
  if (startsWith(bytes, 'II*\0') || startsWith(bytes, 'MM\0*')) return { kind: 'TIFF', size: null, isMoving: false }
  throw new PictureNotRead('This file is no picture that can be read here. Try a JPEG or PNG.')
}

/** In the server's words. */
function refuseKnownStrangers(bytes: Uint8Array): void {
  if (textAt(bytes, 4, 4) === 'ftyp' && HEIC_BRANDS.has(textAt(bytes, 8, 4))) {
    throw new PictureNotRead('This is a HEIC picture, as some phones take them. Save it as JPEG, or set the phone to “most compatible”.')
  }
  const head = textAt(bytes, 0, HEAD_BYTES).replace(/^[\xef\xbb\xbf \t\r\n]+/, '').toLowerCase()
  if (head.startsWith('<?xml') || head.includes('<svg')) throw new PictureNotRead('This is a drawing of lines (SVG), not a photograph. Save it as PNG first.')
}

function startsWith(bytes: Uint8Array, text: string): boolean {
  return textAt(bytes, 0, text.length) === text
}

function textAt(bytes: Uint8Array, at: number, length: number): string {
  return String.fromCharCode(...bytes.subarray(at, at + length))
}

function uint24(bytes: Uint8Array, at: number): number {
  return bytes[at] | (bytes[at + 1] << 8) | (bytes[at + 2] << 16)
}

/** Its first part says it, each kind in its own way. */
function sizeOfWebp(bytes: Uint8Array, view: DataView): [number, number] | null {
  switch (textAt(bytes, 12, 4)) {
    case 'VP8X':
      return [1 + uint24(bytes, 24), 1 + uint24(bytes, 27)]
    case 'VP8 ':
      return [view.getUint16(26, true) & 0x3fff, view.getUint16(28, true) & 0x3fff]
    case 'VP8L': {
      const bits = view.getUint32(21, true)
      return [1 + (bits & 0x3fff), 1 + ((bits >>> 14) & 0x3fff)]
    }
    default:
      return null
  }
}

/** From part to part up to the one that says it. */
function sizeOfJpeg(view: DataView): [number, number] | null {
  let at = 2
  while (view.getUint8(at) === 0xff) {
    const mark = view.getUint8(at + 1)
    if (FRAME_MARKS.has(mark)) return [view.getUint16(at + 7), view.getUint16(at + 5)]
    // A run of fillers, or a mark that nothing belongs to.
    at += mark === 0xff ? 1 : mark === 0x01 || (mark >= 0xd0 && mark <= 0xd8) ? 2 : 2 + view.getUint16(at + 2)
  }
  return null
}

/** A part in front of the pixels says of how many pictures a moving one is. */
function movesInPng(bytes: Uint8Array, view: DataView): boolean {
  for (let at = 8; at + 12 <= bytes.length; at += 12 + view.getUint32(at)) {
    const name = textAt(bytes, at + 4, 4)
    if (name === 'acTL') return view.getUint32(at + 8) > 1
    if (name === 'IDAT') return false
  }
  return false
}

function movesInGif(bytes: Uint8Array): boolean {
  const tableBytes = (flags: number) => (flags & 0x80 ? 3 << ((flags & 7) + 1) : 0)
  const afterBlocks = (from: number) => {
    let at = from
    while (bytes[at] > 0) at += 1 + bytes[at]
    return at + 1
  }
  let at = 13 + tableBytes(bytes[10])
  for (let nPictures = 0; at < bytes.length; ) {
    if (bytes[at] === 0x21) at = afterBlocks(at + 2)
    else if (bytes[at] === 0x2c) {
      nPictures += 1
      if (nPictures > 1) return true
      at = afterBlocks(at + 11 + tableBytes(bytes[at + 9]))
    } else return false
  }
  return false
}
