/** What looks at pictures, as it is asked in this browser: a graph, or a compiled model of pixels. */

/** A prepared picture, with its shape. */
export interface Prepared {
  data: Float32Array
  shape: number[]
}

export interface PictureModel {
  /** A row of outputs for each prepared picture. Throws `ModelFailed`. */
  outputs: (pictures: Prepared[]) => Promise<number[][]>
  /** How many seconds a picture takes; what takes no longer than `quick` is not asked again. */
  pace: (picture: Prepared, quick: number) => Promise<number>
}
