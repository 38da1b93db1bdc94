/** What controls deep in the form need of the page: whose demo it is, its samples, and how to take one up. */
import { createContext } from 'react'
import type { Inputs, Page } from '../../api/client'
import type { Where } from '../../api/picture'

export interface CaseContextValue {
  slug: string
  isDraft: boolean
  samples: Page['samples']
  /** Put these values into the form. */
  onTry: (inputs: Inputs) => void
  /** Each picture as the model sees it, as the address of an image; none before there is an answer. */
  seen: Record<string, string>
  /** Where the model looked in each, as far as that is known. */
  where: Where[]
  /** A class, a label or a number in the visitor's words. */
  nameOfOutput: (of: string) => string
  /** Whether the page says what brought the answer about. */
  explains: boolean
  /** Whether nothing is asked of a server: what a link leads to only that could fetch. */
  isInBrowser: boolean
}

export const CaseContext = createContext<CaseContextValue>({ slug: '', isDraft: false, samples: [], onTry: () => {}, seen: {}, where: [], nameOfOutput: (of) => of, explains: false, isInBrowser: false })
