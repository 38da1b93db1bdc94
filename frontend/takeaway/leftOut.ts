/** What a page that is one file cannot show, left out of it: films, tables, letters few texts have, what only a server's page asks, and pictures where its model looks at none. */
import type { Plugin } from 'vite'

/** By module, the components that stand for nothing. */
const NOTHING: Record<string, string[]> = {
  'answer/BoxesAnswer.tsx': ['BoxesAnswer'],
  'answer/BoxesList.tsx': ['BoxesList'],
  'answer/MadeAnswer.tsx': ['MadeAnswer'],
  'answer/MaskAnswer.tsx': ['MaskAnswer'],
  'answer/WasRight.tsx': ['WasRight'],
  'answer/WrittenAnswer.tsx': ['TextAnswer', 'TableAnswer'],
  'browser/KeepHere.tsx': [],
  'browser/WhereAnswered.tsx': [],
  'browser/ownAnswers.ts': ['ownAnswers'],
  'film/FilmSection.tsx': [],
  'page/AwayNotice.tsx': ['AwayNotice'],
  'page/PasscodeForm.tsx': ['PasscodeForm'],
  'pictures/PictureLink.tsx': ['PictureLink'],
  'pictures/BoxesOverPicture.tsx': ['BoxesOverPicture'],
  'pictures/MadeOverPicture.tsx': ['MadeOverPicture', 'MaskOnPaper'],
  'table/TableSection.tsx': [],
}
/** The same where no picture is looked at. */
const NOTHING_WITHOUT_PICTURES: Record<string, string[]> = {
  'pictures/SeenControl.tsx': [],
  'pictures/SmallPicture.tsx': ['SmallPicture'],
  'pictures/WhereLooked.tsx': ['WhereLooked'],
}
/** Nobody looked anywhere then. */
const NOBODY_LOOKED = "const none = { where: [], isComing: false, why: null }\nexport const useWhere = () => none"
/** By folder under `src`: the author's pages, and what only those of above lead to. */
const UNSEEN = ['workbench', 'parts/table', 'visitor/film', 'visitor/table', 'visitor/answer/BoxesControls.tsx', 'visitor/answer/SaveBoxes.tsx', 'visitor/answer/SaveMade.tsx']
const UNSEEN_WITHOUT_PICTURES = ['visitor/pictures']
/** Where it does not load the page makes do with a plain list. */
const NOT_LOADED = 'fields/SearchedChoice.tsx'
const FONT_FACE = /@font-face \{[^}]*\}/g

export function leftOut(hasPictures: boolean): Plugin {
  const nothing = hasPictures ? NOTHING : { ...NOTHING, ...NOTHING_WITHOUT_PICTURES }
  return {
    name: 'left-out',
    enforce: 'pre',
    load(id) {
      // All of the script is there already: nothing is fetched ahead.
      if (id.endsWith('vite/preload-helper.js')) return 'export const __vitePreload = (load) => load()'
      // Nor is any list asked for page by page.
      if (id.endsWith('/query-core/build/modern/infiniteQueryBehavior.js')) return 'export const [infiniteQueryBehavior, hasNextPage, hasPreviousPage] = []'
      const name = id.split('/src/visitor/')[1]
      if (name === 'pictures/where.ts' && !hasPictures) return NOBODY_LOOKED
      if (name === NOT_LOADED) return "throw new Error('not in this file')\nexport default null"
      const components = name === undefined ? undefined : nothing[name]
      return components && [...components.map((one) => `export const ${one} = () => null`), 'export default () => null'].join('\n')
    },
    transform(code, id) {
      if (!id.endsWith('/parts/styles.css')) return undefined
      // Nor what only those look like.
      const sheets = hasPictures ? ['films'] : ['films', 'pictures']
      const unseen = [...UNSEEN, ...(hasPictures ? [] : UNSEEN_WITHOUT_PICTURES), ...Object.keys(nothing).map((name) => `visitor/${name}`)]
      const own = sheets.reduce((whole, sheet) => whole.replace(`@import './${sheet}.css';\n`, ''), code)
      return [own.replace(FONT_FACE, (face) => (face.includes('latin-ext') ? '' : face)), ...unseen.map((name) => `@source not "../${name}";`)].join('\n')
    },
  }
}
