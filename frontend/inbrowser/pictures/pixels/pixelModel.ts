/** A compiled model whose columns are the pixels of a picture. */
import type { Value } from '../../../runtime/blocks'
import type { CompiledModel } from '../../../runtime/model'
import { ModelFailed } from '../../answering/answers'
import type { PictureModel, Prepared } from '../model'
import { leastSeconds } from '../pace'

export class PixelModel implements PictureModel {
  readonly #model: CompiledModel

  constructor(model: CompiledModel) {
    this.#model = model
  }

  outputs(pictures: Prepared[]): Promise<number[][]> {
    const columns: Record<string, Value[]> = {}
    for (const [at, { name }] of this.#model.inputs.entries()) columns[name] = pictures.map(({ data }) => data[at])
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
