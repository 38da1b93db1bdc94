/**
 * Compiled models, read and asked where they are: no server, no library, no code in the file.
 *
 * @example
 * const model = new CompiledModel(new Uint8Array(await file.arrayBuffer()))
 * const { data } = model.predict({ wall_mm: [7.6], clay_body: ['stoneware'] })
 */
export type { Block, Columns, Value } from './blocks'
export type { Curve } from './explain/curves'
export { Explainer, type Explanation } from './explain/explainer'
export { ModelDamaged, ValueNotKnown } from './errors'
export { CompiledModel } from './model'
export type { Input } from './plan'
export { GroupContributions, type GroupState } from './explain/groups'
export { described } from './pictures/describing'
export { cutAndTurned, type Cut, type Turn } from './pictures/given'
export { patchGrid, regionSums, withPatches } from './pictures/patches'
export { asGrey, withoutAlpha, type Pixels } from './pictures/pixels'
export { asInput, asSeen, type Preparation } from './pictures/preparing'
export { drawnStrokes, type Pen, type Stroke } from './pictures/strokes'
