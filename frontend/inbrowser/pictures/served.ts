/** What answers where the model looks at pictures: opened once, it is told what is asked and says what comes of it. */
import { othersFirst } from '../breath'
import { FileDamaged, readContent, readPictureModel, type Blocks } from '../content'
import { problem } from '../requests'
import { servedBy, type Served } from '../served'
import { PictureAnswerer } from './answerer'
import { GraphSession } from './session'

/** Throws `FileDamaged`. The model is opened while the page is drawn; `whole` rejects where this browser cannot run it. */
export async function serve(blocks: Blocks): Promise<Served> {
  const content = await readContent(blocks)
  const { looks } = content
  if (!looks) throw new FileDamaged('It does not say how its model looks at pictures.')
  const opened = othersFirst().then(async () => {
    const { model, engine } = await readPictureModel(blocks, content)
    return new PictureAnswerer(content, looks, await GraphSession.opened(engine, model, looks.graph))
  })
  return {
    ...servedBy(content, blocks.mark, opened),
    watch: async (asked, onLine, isOver) => {
      try {
        for await (const where of (await opened).where(asked, isOver)) onLine(JSON.stringify(where))
        return null
      } catch (error) {
        return problem(error)
      }
    },
    warmUp: () => undefined,
  }
}
