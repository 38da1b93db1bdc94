/** An answer in a few words: "come out sound, 58 of 100", "20.0 kWh". */
import type { Answer, Page } from '../api/client'
import { kindsWords } from './boxes'
import { listText } from './format'
import { ofHundred } from './ofHundred'
import { saidShare } from './saidClass'

export function answerText(page: Page, answer: Answer): string {
  switch (answer.kind) {
    case 'class': {
      const setting = page.answer.kind === 'class' ? page.answer.classes.find((wording) => wording.name === answer.class) : null
      const said = saidShare(answer)
      const label = setting?.label ?? answer.class
      return said ? `${label}, ${said.of_100} of 100` : label
    }
    case 'number':
      return `${answer.text} ${answer.unit}`.trim()
    case 'numbers':
      return answer.values.map((item) => `${item.name} ${item.text} ${item.unit}`.trim()).join(', ')
    case 'labels':
      return listText(answer.labels.filter((item) => item.applies).map((item) => item.label)) || 'none applies'
    case 'picture':
      return page.answer.kind === 'picture' ? (page.answer.name ?? 'a picture') : 'a picture'
    case 'mask':
      return listText(answer.kinds.filter((kind) => kind.of_100 > 0).map((kind) => `${kind.label} ${kind.of_100} of 100`))
    case 'text':
      return shortened(answer.text)
    case 'table':
      return rowsText(answer.rows.length)
    case 'boxes':
      return `${kindsWords(answer.boxes, page.answer) || 'nothing'}, from a score of ${ofHundred(answer.least_score)} on`
  }
}

const SHORT_CHARACTERS = 80

/** The beginning of a text, on one line. */
export function shortened(text: string): string {
  const line = text.replaceAll(/\s+/g, ' ').trim()
  return line.length > SHORT_CHARACTERS ? `${line.slice(0, SHORT_CHARACTERS - 1)}…` : line
}

export function rowsText(n: number): string {
  return n === 1 ? 'a table of 1 row' : `a table of ${n} rows`
}
