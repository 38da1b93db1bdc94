/** What answers by a compiled model of flattened pixels: nothing else is needed to run it. */
import { readModel, type Blocks } from '../../content'
import type { Served } from '../../served'
import { PixelModel } from './pixelModel'
import { servedPictures } from '../serving'

/** Throws `FileDamaged`. */
export function serve(blocks: Blocks): Promise<Served> {
  return servedPictures(blocks, async (content) => new PixelModel(await readModel(blocks, content)))
}
