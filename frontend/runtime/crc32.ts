/** The checksum of ISO 3309. */

const POLYNOMIAL = 0xedb88320
const TABLE = Uint32Array.from({ length: 256 }, (_, byte) => {
  let left = byte
  for (let bit = 0; bit < 8; bit++) left = left & 1 ? (left >>> 1) ^ POLYNOMIAL : left >>> 1
  return left
})

/** Of what stands in all parts together. */
export function crc32(...parts: Uint8Array[]): number {
  let sum = 0xffffffff
  for (const part of parts) for (let at = 0; at < part.length; at++) sum = TABLE[(sum ^ part[at]) & 0xff] ^ (sum >>> 8)
  return (sum ^ 0xffffffff) >>> 0
}
