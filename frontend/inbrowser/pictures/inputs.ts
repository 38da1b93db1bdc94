/** What a visitor gives for a picture or a drawing, checked and made pixels: `core/fields/pictures.py` and `preparer.py` once more. */
import type { Field, FieldProblem, Note } from '../../src/api/client'
import { cutAndTurned, type Turn } from '../../runtime/pictures/given'
import type { Pixels } from '../../runtime/pictures/pixels'
import { asSeen, type Preparation } from '../../runtime/pictures/preparing'
import { drawnStrokes, type Pen, type Stroke } from '../../runtime/pictures/strokes'
import { InputFaults } from '../answering/inputs'
import { decoded } from './decoding'
import { PictureNotRead } from './stated'

export type SeenField = Extract<Field, { kind: 'picture' | 'drawing' }>

/** A picture as the page sends it, or as it stands in what goes along. */
export interface Given {
  /** A file, as it was chosen; or its content in base64. */
  file?: Blob
  data?: string
  sample?: string
  link?: string
  strokes?: Stroke[]
  left?: number
  top?: number
  width?: number
  height?: number
  turn?: Turn
}

export interface Read {
  /** What was given, cut out and turned; of a drawing all of it. */
  picture: Pixels
  /** What the model sees of it. */
  seen: Pixels
  notes: Note[]
  strokes: Stroke[] | null
  pen: Pen
}

const WHOLE = { left: 0, top: 0, width: 1, height: 1 }

/** The one picture of a case. Throws `InputFaults`. */
export async function readPicture(field: SeenField, inputs: Record<string, unknown>, samples: Record<string, Given>): Promise<Read> {
  const strangers = Object.keys(inputs).filter((name) => name !== field.name)
  if (strangers.length) throw new InputFaults(strangers.map((name): FieldProblem => ({ field: name, message: `There is no field ${JSON.stringify(name)}. Leave it out.` })))
  const given = withSample(field, inputs[field.name] as Given | null | undefined, samples)
  const pen = penOf(field)
  if (given.strokes?.length) return madeOf(field, drawnStrokes(given.strokes, pen), [], given.strokes)
  const file = given.file ?? (given.data === undefined ? null : blobOf(given.data))
  if (!file) throw refused(field, `is empty. ${field.kind === 'drawing' ? 'Draw something.' : 'Choose a picture.'}`)
  try {
    const { pixels, notes } = await decoded(file, field.behind ?? [255, 255, 255])
    return madeOf(field, cutAndTurned(pixels, { ...WHOLE, ...cutOf(given) }, given.turn ?? 0), notes, null)
  } catch (error) {
    if (error instanceof PictureNotRead) throw new InputFaults([{ field: field.name, message: error.message }])
    throw error
  }
}

export function preparationOf(field: SeenField): Preparation {
  return field.preparation as Preparation
}

function penOf(field: SeenField): Pen {
  const paper = field.behind ?? [255, 255, 255]
  return field.kind === 'drawing' ? { line_width: field.line_width ?? 0.07, centred: field.centred ?? false, paper } : { line_width: 0.07, centred: false, paper }
}

function madeOf(field: SeenField, picture: Pixels, notes: string[], strokes: Stroke[] | null): Read {
  const told = notes.map((message): Note => ({ field: field.name, level: 'info', message, code: null }))
  return { picture, seen: asSeen(picture, preparationOf(field)), notes: told, strokes, pen: penOf(field) }
}

function withSample(field: SeenField, given: Given | null | undefined, samples: Record<string, Given>): Given {
  if (given?.sample === undefined) return given ?? {}
  const { sample, ...rest } = given
  const found = samples[sample]
  if (!found) throw new InputFaults([{ field: field.name, message: `${field.label}: there is no such sample. Choose another.` }])
  return { ...found, ...rest }
}

function cutOf({ left, top, width, height }: Given) {
  return Object.fromEntries(Object.entries({ left, top, width, height }).filter(([, value]) => value !== undefined))
}

function blobOf(data: string): Blob {
  const text = atob(data.startsWith('data:') ? data.slice(data.indexOf(',') + 1) : data)
  return new Blob([Uint8Array.from(text, (character) => character.charCodeAt(0))])
}

function refused(field: SeenField, why: string): InputFaults {
  return new InputFaults([{ field: field.name, message: `${field.label} ${why}` }])
}
