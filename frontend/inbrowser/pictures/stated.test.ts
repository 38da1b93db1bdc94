import { expect, it } from 'vitest'
import { PictureNotRead, statedOf } from './stated'

const bytes = (...parts: (string | number[])[]) => Uint8Array.from(parts.flatMap((part) => (typeof part === 'string' ? [...part].map((one) => one.charCodeAt(0)) : part)))
const le32 = (value: number) => [value & 255, (value >> 8) & 255, (value >> 16) & 255, value >>> 24]
const be32 = (value: number) => le32(value).reverse()
const zeros = (n: number) => Array.from({ length: n }, () => 0)

const PNG = (...parts: number[][]) => bytes([0x89], 'PNG\r\n\x1a\n', be32(13), 'IHDR', be32(9000), be32(20), zeros(9), ...parts)
const CHUNK = (name: string, content: number[]) => [...be32(content.length), ...bytes(name), ...content, ...zeros(4)]
const GIF_PICTURE = [0x2c, ...zeros(9), 2, 1, 0, 0]

it.each([
  ['a JPEG behind its metadata', bytes([0xff, 0xd8, 0xff, 0xe1, 0, 4, 0, 0, 0xff, 0xff, 0xc2, 0, 11, 8, 0, 20, 0x23, 0x28, 3]), [9000, 20]],
  ['a PNG', PNG(), [9000, 20]],
  ['a GIF', bytes('GIF89a', [0x28, 0x23, 20, 0, 0, 0, 0]), [9000, 20]],
  ['a bitmap whose first line is the uppermost', bytes('BM', zeros(16), le32(9000), le32(-20)), [9000, 20]],
  ['a lossy WebP', bytes('RIFF', zeros(4), 'WEBPVP8 ', zeros(10), [0x28, 0x23, 20, 0]), [9000, 20]],
  ['a lossless WebP', bytes('RIFF', zeros(4), 'WEBPVP8L', zeros(4), [0x2f], le32(8999 | (19 << 14))), [9000, 20]],
  ['a WebP with more to it', bytes('RIFF', zeros(4), 'WEBPVP8X', zeros(8), [0x27, 0x23, 0, 19, 0, 0]), [9000, 20]],
])('the size of %s is read before it is decoded', (_, content, size) => {
  expect(statedOf(content)).toMatchObject({ size, isMoving: false })
})

it.each([
  ['a GIF of two pictures', bytes('GIF89a', [1, 0, 1, 0, 0, 0, 0], [0x21, 0xf9, 1, 0, 0], GIF_PICTURE, GIF_PICTURE), true],
  ['a GIF of one', bytes('GIF89a', [1, 0, 1, 0, 0x80, 0, 0], zeros(6), GIF_PICTURE, [0x3b]), false],
  ['a PNG of three', PNG(CHUNK('acTL', [...be32(3), ...be32(0)])), true],
  ['a PNG of one', PNG(CHUNK('IDAT', [1, 2]), CHUNK('acTL', [...be32(3), ...be32(0)])), false],
  ['a WebP of several', bytes('RIFF', zeros(4), 'WEBPVP8X', zeros(4), [2], zeros(9)), true],
])('whether %s moves is told', (_, content, isMoving) => {
  expect(statedOf(content).isMoving).toBe(isMoving)
})

it.each([bytes(), bytes('hello'), PNG().slice(0, 20), bytes([0xff, 0xd8, 0xff]), bytes('RIFF', zeros(4), 'WEBPVP8 ')])('what is cut off or no picture is refused in words', (content) => {
  expect(() => statedOf(content)).toThrow(PictureNotRead)
})
