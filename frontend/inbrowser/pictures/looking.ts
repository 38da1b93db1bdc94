/** Where the model looked in a picture, or which strokes it took: sharper from line to line, as the server tells it. */
import { crc32 } from '../../runtime/crc32'
import { GroupContributions, MOST_PAIRS, type GroupState } from '../../runtime/explain/groups'
import { MOST_PATCHES_ACROSS, patchGrid, regionSums, withPatches, type PatchGrid } from '../../runtime/pictures/patches'
import { asInput, asSeen } from '../../runtime/pictures/preparing'
import { drawnStrokes } from '../../runtime/pictures/strokes'
import type { Where } from '../../src/api/picture'
import { NotWantedAnyMore, othersFirst, type IsOver } from '../breath'
import { TooSlow } from '../requests'
import { preparationOf, type Read, type SeenField } from './inputs'
import type { PictureModel, Prepared } from './model'

/** How long it works before it says what is known so far, in seconds. */
const STEP_SECONDS = 0.15
const SKETCH_SECONDS = 2
const MOST_LOOK_SECONDS = 20
const FEWEST_PATCHES_ACROSS = 2
/** A model as quick as this gets as many patches as there may be. */
const QUICK_SECONDS = SKETCH_SECONDS / (MOST_PATCHES_ACROSS ** 2 + 2)
const GROUPS_AT_ONCE = 96
const PICTURES_AT_ONCE = 12
/** Whoever asks for an answer meanwhile waits so long at the most, or for one picture. */
const HELD_UP_SECONDS = 0.05

export interface Looked {
  field: SeenField
  read: Read
  /** The output's place, its name, and its unit. */
  place: number
  of: string
  unit: string
}

interface Look {
  parts: 'patches' | 'strokes'
  nRows: number
  nColumns: number
  game: GroupContributions
  atOnce: number
}

/** Line by line, the last with `is_done`. Throws `TooSlow`, and `NotWantedAnyMore` once `isOver` says so. */
export async function* looked(model: PictureModel, about: Looked, isOver: IsOver): AsyncGenerator<Where> {
  const look = await begun(model, about, isOver)
  yield told(look, about)
  while (!look.game.isDone) {
    const until = performance.now() + STEP_SECONDS * 1000
    do await look.game.advance(look.atOnce)
    while (!look.game.isDone && performance.now() < until)
    yield told(look, about)
  }
}

async function begun(model: PictureModel, { field, read, place }: Looked, isOver: IsOver): Promise<Look> {
  const preparation = preparationOf(field)
  const began = performance.now()
  const whole = wholeOf(field, read)
  const drawing = read.strokes ? (performance.now() - began) / 1000 : 0
  const alone = await model.pace(whole, QUICK_SECONDS)
  if (read.strokes && (read.strokes.length + 2) * alone > SKETCH_SECONDS) throw new TooSlow()
  // With the drawing of strokes, which may take longer than the model.
  const seconds = drawing + alone
  const mostPairs = Math.min(MOST_PAIRS, Math.floor(MOST_LOOK_SECONDS / 2 / seconds))
  const atOnce = Math.min(GROUPS_AT_ONCE, Math.max(2, Math.floor(STEP_SECONDS / seconds)))
  const nTogether = Math.max(1, Math.min(PICTURES_AT_ONCE, Math.floor(HELD_UP_SECONDS / seconds)))
  const ask = (inputOf: (shown: Uint8Array) => Prepared) => async (shown: Uint8Array[]) => {
    const answers = new Float64Array(shown.length)
    for (let at = 0; at < shown.length; at += nTogether) {
      // Whoever asks for an answer meanwhile goes before.
      await othersFirst()
      if (isOver()) throw new NotWantedAnyMore()
      const outputs = await model.outputs(shown.slice(at, at + nTogether).map(inputOf))
      outputs.forEach((own, row) => (answers[at + row] = own[place]))
    }
    return answers
  }
  const seed = crc32(new TextEncoder().encode(`${field.name} ${place} `), read.seen.data)
  if (read.strokes) {
    const { strokes } = read
    const drawn = ask((shown) => drawnOf(field, read, [...shown].map(Boolean)))
    return { parts: 'strokes', nRows: 1, nColumns: strokes.length, game: await GroupContributions.begun(drawn, strokes.length, seed, mostPairs), atOnce }
  }
  const across = Math.floor(Math.sqrt(Math.max(0, Math.floor(SKETCH_SECONDS / seconds) - 2)))
  if (across < FEWEST_PATCHES_ACROSS) throw new TooSlow()
  const grid = patchGrid(read.seen, preparation, Math.min(across, MOST_PATCHES_ACROSS))
  const { shape } = asInput(read.seen, preparation)
  const covered = ask((shown) => ({ data: withPatches(grid, shown), shape }))
  return { parts: 'patches', nRows: grid.nRows, nColumns: grid.nColumns, game: await GroupContributions.begun(covered, grid.nRows * grid.nColumns, seed, mostPairs), atOnce }
}

/** The input as it is. */
function wholeOf(field: SeenField, { seen, strokes, pen }: Read): Prepared {
  return strokes ? drawnOf(field, { strokes, pen }, strokes.map(() => true)) : asInput(seen, preparationOf(field))
}

/** A sheet with some of its strokes. */
function drawnOf(field: SeenField, { strokes, pen }: Pick<Read, 'strokes' | 'pen'>, keep: boolean[]): Prepared {
  const preparation = preparationOf(field)
  return asInput(asSeen(drawnStrokes(strokes ?? [], pen, keep), preparation), preparation)
}

/** The input with nothing on it: a sheet without its strokes, or the picture's average colour. */
export function coveredOf(field: SeenField, { seen, strokes, pen }: Read): Prepared {
  const preparation = preparationOf(field)
  if (strokes) return drawnOf(field, { strokes, pen }, strokes.map(() => false))
  const grid: PatchGrid = patchGrid(seen, preparation)
  return { data: grid.covered, shape: asInput(seen, preparation).shape }
}

function told({ parts, nRows, nColumns, game }: Look, { field, of, unit }: Looked): Where {
  const state: GroupState = game.state
  const { contributions, covariance } = state
  const errors = Array.from(contributions, (_, at) => known(Math.sqrt(Math.max(covariance[at * (contributions.length + 1)], 0))))
  const regions = parts === 'patches' ? regionSums(contributions, covariance, nRows, nColumns).map((one) => ({ ...one, error: known(one.error) })) : []
  return {
    field: field.name,
    parts,
    of,
    unit,
    method: state.method,
    whole: state.whole,
    covered: state.covered,
    n_rows: nRows,
    n_columns: nColumns,
    contributions: [...contributions],
    errors,
    regions,
    n_asked: state.nAsked,
    is_done: state.isDone,
  }
}

function known(error: number): number | null {
  return Number.isNaN(error) ? null : error
}
