/** What a reader of compiled models refuses, and why. */

/** A file that is no compiled model, or contradicts itself. */
export class ModelDamaged extends Error {
  override name = 'ModelDamaged'
}

/** A value that is not among a column's categories, where the original refuses such a row too. */
export class ValueNotKnown extends Error {
  override name = 'ValueNotKnown'

  constructor(
    message: string,
    readonly value: unknown,
    /** The column's name; empty where another step made it. */
    readonly column: string,
  ) {
    super(message)
  }
}

/** Refuse a step whose parts do not fit together. */
export function need(holds: boolean, what: string): asserts holds {
  if (!holds) throw new ModelDamaged(what)
}
