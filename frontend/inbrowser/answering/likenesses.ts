/** How like the reference rows a case is, by what of it is the strangest: its numbers and options, or one of its texts. */
import type { Content } from '../content'
import { LikenessOfTexts } from './likenessOfTexts'
import type { Row } from './rows'
import { Similarity, type Familiarity } from './similarity'

export class Likenesses {
  /** By numbers and options; null where there are none, or the rows are not in the file. */
  readonly ofRows: Similarity | null
  readonly #ofTexts: [string, LikenessOfTexts][]

  constructor({ rows, likeness, likeness_of_texts: ofTexts }: Content) {
    this.ofRows = rows && likeness ? new Similarity(rows, likeness) : null
    this.#ofTexts = Object.entries(ofTexts).map(([name, along]) => {
      const texts = rows?.columns[name].slice(0, along.n_compared) ?? []
      return [name, new LikenessOfTexts(texts.filter((text) => typeof text === 'string'), along)]
    })
  }

  /** Null where nothing of the case can be compared. */
  familiarity(row: Row): Familiarity | null {
    const found = this.ofRows ? [this.ofRows.familiarity(row)] : []
    for (const [name, likeness] of this.#ofTexts) {
      const text = row[name]
      if (typeof text === 'string') found.push(likeness.familiarity(text))
    }
    found.sort((a, b) => Number(b.is_unlike) - Number(a.is_unlike) || a.share_as_far - b.share_as_far)
    return found[0] ?? null
  }
}
