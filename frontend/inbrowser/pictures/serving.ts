/** What answers where the model looks at pictures: opened once, it is told what is asked and says what comes of it. */
import { othersFirst } from '../breath'
import { FileDamaged, readContent, type Blocks, type Content } from '../content'
import { problem } from '../requests'
import { servedBy, type Served } from '../served'
import { PictureAnswerer, type Looks } from './answerer'
import type { PictureModel } from './model'

/**
 * `open` gives what is asked: it is opened while the page is drawn. Throws `FileDamaged`; `whole` rejects where this browser
 * cannot run it.
 */
export async function servedPictures(blocks: Blocks, open: (content: Content, looks: Looks) => Promise<PictureModel>): Promise<Served> {
  const content = await readContent(blocks)
  const { looks } = content
  if (!looks) throw new FileDamaged('It does not say how its model looks at pictures.')
  const opened = othersFirst().then(async () => new PictureAnswerer(content, looks, await open(content, looks)))
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
