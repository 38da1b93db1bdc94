/** Which kinds of field there are, as pages tell them apart. */
import type { DrawingField, Field, PictureField } from '../api/client'

/** Whether a field is a picture or a drawing. */
export function isSeen(field: Field): field is PictureField | DrawingField {
  return field.kind === 'picture' || field.kind === 'drawing'
}
