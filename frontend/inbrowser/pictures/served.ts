/** What answers where the model looks at pictures: opened once, it is told what is asked and says what comes of it. */
import { FileDamaged, readPictureBlocks, type Blocks } from '../content'
import { prove } from '../proof'
import { answered, problem } from '../requests'
import type { Served } from '../served'
import { PictureAnswerer } from './answerer'
import { GraphSession } from './session'

/** Throws `FileDamaged`; rejects otherwise where this browser cannot run the model. */
export async function serve(blocks: Blocks): Promise<Served> {
  const { content, model, engine } = await readPictureBlocks(blocks)
  if (!content.looks) throw new FileDamaged('It does not say how its model looks at pictures.')
  const answerer = new PictureAnswerer(content, content.looks, await GraphSession.opened(engine, model, content.looks.graph))
  return {
    ask: (asked) => answered(content, answerer, blocks.mark, asked),
    watch: async (asked, onLine, isOver) => {
      try {
        for await (const where of answerer.where(asked, isOver)) onLine(JSON.stringify(where))
        return null
      } catch (error) {
        return problem(error)
      }
    },
    nReference: content.proof.length,
    prove: (onProgress) => prove(answerer, content.proof, onProgress),
    warmUp: () => undefined,
  }
}
