/** Every operation that a plan may name. */
import { ARITHMETIC } from './arithmetic'
import { COLUMNS } from './columns'
import { DISTANCES } from './distances'
import type { Operations } from './registry'
import { SHAPES } from './shapes'
import { TREES } from './trees'
import { VOTES } from './votes'
import { WORDS } from './words'

export const OPERATIONS: Operations = { ...COLUMNS, ...WORDS, ...ARITHMETIC, ...SHAPES, ...DISTANCES, ...VOTES, ...TREES }
