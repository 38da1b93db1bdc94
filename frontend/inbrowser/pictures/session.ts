/** An ONNX graph that looks at pictures, asked in this browser by onnxruntime built as WebAssembly. */
import { env, InferenceSession, Tensor } from 'onnxruntime-web/wasm'
import { ModelFailed } from '../answering/answers'
import type { PictureModel, Prepared } from './model'
import { leastSeconds } from './pace'

/** How the graph is asked, and how a row of outputs is read from what it gives: `GraphReading` of the server. */
export interface GraphReading {
  input: string
  element: 'float32' | 'float64' | 'uint8' | 'int8' | 'int32'
  /** Of the input; null for a side that is left open. */
  shape: (number | null)[]
  at_once: number
  outputs: string[]
  link: 'none' | 'softmax' | 'sigmoid'
  /** Whether one number is the probability of the second of two classes. */
  completes: boolean
}

const ARRAYS = { float32: Float32Array, float64: Float64Array, uint8: Uint8Array, int8: Int8Array, int32: Int32Array }

export class GraphSession implements PictureModel {
  readonly #session: InferenceSession
  readonly #reading: GraphReading
  /** One question after the other: the session takes no two at once. */
  #line: Promise<unknown> = Promise.resolve()
  /** How many seconds a picture took last. */
  #took = Infinity

  private constructor(session: InferenceSession, reading: GraphReading) {
    this.#session = session
    this.#reading = reading
  }

  /** Rejects where this browser cannot run it: what came is known to be whole by then. */
  static async opened(engine: Uint8Array, model: Uint8Array, reading: GraphReading): Promise<GraphSession> {
    // Threads would need headers that pages within frames cannot have.
    env.wasm.numThreads = 1
    env.wasm.proxy = false
    env.wasm.wasmBinary = engine.slice().buffer
    env.logLevel = 'fatal'
    return new GraphSession(await InferenceSession.create(model, { executionProviders: ['wasm'] }), reading)
  }

  pace(picture: Prepared, quick: number): Promise<number> {
    return leastSeconds(() => this.outputs([picture]).then(() => this.#took), this.#took, quick)
  }

  async outputs(pictures: Prepared[]): Promise<number[][]> {
    const rows: number[][] = []
    for (let at = 0; at < pictures.length; at += this.#reading.at_once) {
      const some = pictures.slice(at, at + this.#reading.at_once)
      const asked = this.#line.then(() => this.#run(some))
      this.#line = asked.catch(() => undefined)
      rows.push(...(await asked))
    }
    return rows
  }

  async #run(pictures: Prepared[]): Promise<number[][]> {
    const { input, element, outputs } = this.#reading
    const begun = performance.now()
    let given
    try {
      given = await this.#session.run({ [input]: new Tensor(element, this.#stacked(pictures) as never, this.#dims(pictures)) }, outputs)
    } catch (error) {
      throw new ModelFailed((error as Error).message)
    }
    this.#took = Math.max((performance.now() - begun) / 1000 / pictures.length, 1e-6)
    const parts = outputs.map((name) => Array.from(given[name].data as Float32Array, Number))
    if (parts.length > 1) return pictures.map((_, row) => parts.map((part) => part[row]))
    const width = parts[0].length / pictures.length
    return pictures.map((_, row) => this.#read(parts[0].slice(row * width, (row + 1) * width)))
  }

  #stacked(pictures: Prepared[]) {
    const size = pictures[0].data.length
    const all = new ARRAYS[this.#reading.element](size * pictures.length)
    for (const [at, { data }] of pictures.entries()) {
      // Pictures are of one size but for those that keep their own, which come one by one.
      if (data.length !== size) throw new ModelFailed('Pictures of different sizes do not go together.')
      all.set(data, at * size)
    }
    return all
  }

  #dims(pictures: Prepared[]): number[] {
    const [{ shape }] = pictures
    if (this.#reading.shape.length === 3) return shape.length === 4 ? shape.slice(1) : shape
    return shape.length === this.#reading.shape.length ? [pictures.length, ...shape.slice(1)] : [pictures.length, ...shape]
  }

  #read(own: number[]): number[] {
    const { link, completes } = this.#reading
    let out = own
    if (link === 'softmax') {
      const most = Math.max(...own)
      const exponents = own.map((one) => Math.exp(one - most))
      const sum = exponents.reduce((total, one) => total + one, 0)
      // As on the server: softmax of one number alone stays one number.
      return exponents.map((one) => one / sum)
    }
    if (link === 'sigmoid') out = own.map((one) => 1 / (1 + Math.exp(-one)))
    return completes && out.length === 1 ? [1 - out[0], out[0]] : out
  }
}
