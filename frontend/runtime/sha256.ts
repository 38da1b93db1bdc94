/** SHA-256 (FIPS 180-4), for pages that were opened from a disk: there a browser may not offer its own. */

const CONSTANTS = firstPrimes(64).map((prime) => fraction(Math.cbrt(prime)))
const START = firstPrimes(8).map((prime) => fraction(Math.sqrt(prime)))
const BLOCK_BYTES = 64

/** The first 32 bits behind the point. */
function fraction(value: number): number {
  return ((value - Math.floor(value)) * 2 ** 32) | 0
}

function firstPrimes(n: number): number[] {
  const primes: number[] = []
  for (let candidate = 2; primes.length < n; candidate++) {
    if (primes.every((prime) => candidate % prime !== 0)) primes.push(candidate)
  }
  return primes
}

/** A sum that is added to part by part. */
export class Sha256 {
  #state = Int32Array.from(START)
  #words = new Int32Array(BLOCK_BYTES)
  #rest = new Uint8Array(BLOCK_BYTES)
  #nRest = 0
  #nBytes = 0

  update(bytes: Uint8Array): this {
    this.#nBytes += bytes.length
    let at = 0
    if (this.#nRest > 0) {
      at = Math.min(BLOCK_BYTES - this.#nRest, bytes.length)
      this.#rest.set(bytes.subarray(0, at), this.#nRest)
      this.#nRest += at
      if (this.#nRest < BLOCK_BYTES) return this
      this.#add(this.#rest, 0)
    }
    for (; at + BLOCK_BYTES <= bytes.length; at += BLOCK_BYTES) this.#add(bytes, at)
    this.#rest.set(bytes.subarray(at))
    this.#nRest = bytes.length - at
    return this
  }

  /** The sum in hex. Nothing can be added after that. */
  digest(): string {
    const end = new Uint8Array(this.#nRest < BLOCK_BYTES - 8 ? BLOCK_BYTES - this.#nRest : 2 * BLOCK_BYTES - this.#nRest)
    end[0] = 0x80
    const length = new DataView(end.buffer, end.length - 8)
    length.setUint32(0, Math.floor((this.#nBytes * 8) / 2 ** 32))
    length.setUint32(4, (this.#nBytes * 8) % 2 ** 32)
    this.update(end)
    return Array.from(this.#state, (word) => (word >>> 0).toString(16).padStart(8, '0')).join('')
  }

  #add(bytes: Uint8Array, from: number): void {
    const w = this.#words
    for (let t = 0; t < 16; t++) {
      const at = from + 4 * t
      w[t] = (bytes[at] << 24) | (bytes[at + 1] << 16) | (bytes[at + 2] << 8) | bytes[at + 3]
    }
    for (let t = 16; t < 64; t++) {
      const x = w[t - 15]
      const y = w[t - 2]
      const s0 = turned(x, 7) ^ turned(x, 18) ^ (x >>> 3)
      const s1 = turned(y, 17) ^ turned(y, 19) ^ (y >>> 10)
      w[t] = (w[t - 16] + s0 + w[t - 7] + s1) | 0
    }
    this.#mix(w)
  }

  #mix(w: Int32Array): void {
    const state = this.#state
    // One by one: taking an array apart costs more here than all the rest.
    let a = state[0]
    let b = state[1]
    let c = state[2]
    let d = state[3]
    let e = state[4]
    let f = state[5]
    let g = state[6]
    let h = state[7]
    for (let t = 0; t < 64; t++) {
      const s1 = turned(e, 6) ^ turned(e, 11) ^ turned(e, 25)
      const one = (h + s1 + ((e & f) ^ (~e & g)) + CONSTANTS[t] + w[t]) | 0
      const s0 = turned(a, 2) ^ turned(a, 13) ^ turned(a, 22)
      const two = (s0 + ((a & b) ^ (a & c) ^ (b & c))) | 0
      h = g
      g = f
      f = e
      e = (d + one) | 0
      d = c
      c = b
      b = a
      a = (one + two) | 0
    }
    state[0] += a
    state[1] += b
    state[2] += c
    state[3] += d
    state[4] += e
    state[5] += f
    state[6] += g
    state[7] += h
  }
}

function turned(word: number, by: number): number {
  return (word >>> by) | (word << (32 - by))
}
