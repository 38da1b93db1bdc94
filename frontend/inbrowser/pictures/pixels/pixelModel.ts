/** A compiled model whose columns are the pixels of a picture. */
import type { Value } from '../../../runtime/blocks'
import type { CompiledModel } from '../../../runtime/model'
import { ModelFailed } from '../../answering/answers'
import type { PictureModel, Prepared } from '../model'
import { leastSeconds } from '../pace'

/** What columns are called, before their place in the picture, row by row. */
const COLUMN = 'pixel '

export class PixelModel implements PictureModel {
  readonly #model: CompiledModel
  /** By column the pixel that it is: of those that nothing hangs on there may be none. */
  readonly #places: [string, number][]

  constructor(model: CompiledModel) {
    this.#model = model
    this.#places = model.inputs.map(({ name }) => [name, Number(name.slice(COLUMN.length))])
  }

  outputs(pictures: Prepared[]): Promise<number[][]> {
    const columns: Record<string, Value[]> = {}
    for (const [name, at] of this.#places) columns[name] = pictures.map(({ data }) => data[at])
    try {
      const { data, width } = this.#model.predict(columns)
      return Promise.resolve(pictures.map((_, row) => Array.from(data.subarray(row * width, (row + 1) * width))))
    } catch (error) {
      return Promise.reject(new ModelFailed((error as Error).message))
    }
  }

  pace(picture: Prepared, quick: number): Promise<number> {
    const took = async () => {
      const begun = performance.now()
      await this.outputs([picture])
      return Math.max((performance.now() - begun) / 1000, 1e-6)
    }
    return leastSeconds(took, Infinity, quick)
  }
}
