/** The control of a field that is looked at: a picture, or a drawing. */
import type { Field, InputValue } from '../../api/client'
import type { ControlIds } from '../fields/FieldRow'
import type { FieldWhy } from '../../domain/why'
import { DrawingControl } from './DrawingControl'
import { PictureControl } from './PictureControl'

export interface SeenControlProps {
  field: Extract<Field, { kind: 'picture' | 'drawing' }>
  value: InputValue
  ids: ControlIds
  why: FieldWhy | null
  onChange: (value: InputValue) => void
}

export default function SeenControl({ field, ...rest }: SeenControlProps) {
  return field.kind === 'picture' ? <PictureControl field={field} {...rest} /> : <DrawingControl field={field} {...rest} />
}
