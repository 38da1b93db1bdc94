/** What answers by an ONNX graph. */
import { FileDamaged, readPictureModel, type Blocks } from '../content'
import type { Served } from '../served'
import { servedPictures } from './serving'
import { GraphSession } from './session'

/** Throws `FileDamaged`. */
export function serve(blocks: Blocks): Promise<Served> {
  return servedPictures(blocks, async (content, { graph }) => {
    if (!graph) throw new FileDamaged('It does not say how its graph is asked.')
    const { model, engine } = await readPictureModel(blocks, content)
    return GraphSession.opened(engine, model, graph)
  })
}
