/** How a picture becomes the model's input, with a picture to try it on. */
import { faultText } from '../../api/faultText'
import { useState } from 'react'
import { type FieldChanges } from '../../api/client'
import { numberText } from '../../domain/format'
import { parseNumber } from '../../domain/numbers'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { Tries, TryPicture, type SeenField } from './PreparationTries'
import { Choice } from '../bench/Choice'
import { ColourInput, Tick } from './PreparationInputs'

const KINDS = [
  { value: 'picture', label: 'a picture' },
  { value: 'drawing', label: 'a drawing' },
] as const
const FITS = [
  { value: 'stretch', label: 'stretched' },
  { value: 'border', label: 'whole, inside a border' },
  { value: 'crop', label: 'the middle cut out' },
] as const
const COLOURS = [
  { value: 'colour', label: 'colour' },
  { value: 'grey', label: 'grey' },
] as const
const SCALES = [
  { value: '0..255', label: 'from 0 to 255' },
  { value: '0..1', label: 'from 0 to 1' },
  { value: '-1..1', label: 'from −1 to 1' },
  { value: 'spread', label: 'less a mean, by a spread' },
] as const
const ORDERS = [
  { value: 'rgb', label: 'red, green, blue' },
  { value: 'bgr', label: 'blue, green, red' },
] as const
const GROUNDS = [
  { value: 'any', label: 'pictures as they come' },
  { value: 'light on dark', label: 'light strokes on dark' },
  { value: 'dark on light', label: 'dark strokes on light' },
] as const
const LAYOUTS = [
  { value: 'channels first', label: 'channels first' },
  { value: 'channels last', label: 'channels last' },
  { value: 'flat', label: 'one long row' },
] as const
/** Means and spreads of everyday pictures, which most networks for photographs are trained with. */
const USUAL = { mean: [0.485, 0.456, 0.406], spread: [0.229, 0.224, 0.225] }

export function PreparationSheet({ field, draft }: { field: SeenField; draft: Draft }) {
  const { preparation } = field
  const [fault, setFault] = useState('')
  const saveField = async (changes: Omit<FieldChanges, 'name'>) => {
    try {
      await draft.save({ fields: [{ name: field.name, ...changes }] })
      setFault('')
    } catch (error) {
      setFault(faultText(error))
    }
  }
  const save = (changes: Partial<SeenField['preparation']>) => void saveField({ preparation: changes as Record<string, unknown> })
  const saveNumber = (key: 'width' | 'height') => (text: string) =>
    draft.save({ fields: [{ name: field.name, preparation: { [key]: parseNumber(text) ?? text } }] })
  const saveNumbers = (key: 'mean' | 'spread') => (text: string) =>
    draft.save({ fields: [{ name: field.name, preparation: { [key]: text.split(/[\s,;]+/).filter(Boolean).map((part) => parseNumber(part) ?? part) } }] })
  const channels = preparation.colour === 'grey' ? 1 : 3
  return (
    <div className="mt-3" data-testid="preparation">
      <h3 className="font-bold">How the picture is prepared</h3>
      {draft.demo.questions
        .filter((question) => question.name === 'preparation')
        .map((question) => (
          <p key={question.name} className="text-caution">
            <span aria-hidden="true">! </span>
            {question.text} Setting anything of it here confirms it.
          </p>
        ))}
      <div className="mt-1 grid grid-cols-6 gap-x-4 gap-y-2">
        <Choice className="col-span-2" label="Visitors give" value={field.kind} options={KINDS} onChange={(kind) => void saveField({ kind })} />
        <SavedInput label="Width" value={String(preparation.width)} inputMode="decimal" onSave={saveNumber('width')} />
        <SavedInput label="Height" value={String(preparation.height)} inputMode="decimal" onSave={saveNumber('height')} />
        <Tick label="Pictures keep their own size, up to that" isOn={preparation.own_size ?? false} onChange={(own_size) => save({ own_size })} />
        <Choice className="col-span-2" label="Fitted" value={preparation.fit ?? 'stretch'} options={FITS} onChange={(fit) => save({ fit })} />
        <Choice
          label="Colours"
          value={preparation.colour ?? 'colour'}
          options={COLOURS}
          onChange={(colour) => save(preparation.scale === 'spread' ? { colour, scale: '0..1', mean: [], spread: [] } : { colour })}
        />
        <Choice
          className="col-span-2"
          label="Numbers"
          value={preparation.scale ?? '0..1'}
          options={SCALES}
          onChange={(scale) =>
            save(
              scale === 'spread'
                ? { scale, mean: USUAL.mean.slice(0, channels), spread: USUAL.spread.slice(0, channels) }
                : { scale, mean: [], spread: [] },
            )
          }
        />
        <Choice className="col-span-2" label="Trained on" value={preparation.trained_on ?? 'any'} options={GROUNDS} onChange={(trained_on) => save({ trained_on })} />
        {preparation.colour !== 'grey' && (
          <Choice className="col-span-2" label="Order" value={preparation.order ?? 'rgb'} options={ORDERS} onChange={(order) => save({ order })} />
        )}
        <Choice className="col-span-2" label="Layout" value={preparation.layout ?? 'channels first'} options={LAYOUTS} onChange={(layout) => save({ layout })} />
        {preparation.scale === 'spread' && (
          <>
            <SavedInput className="col-span-2" label="Mean, a channel each" value={(preparation.mean ?? []).join(', ')} onSave={saveNumbers('mean')} />
            <SavedInput className="col-span-2" label="Spread, a channel each" value={(preparation.spread ?? []).join(', ')} onSave={saveNumbers('spread')} />
          </>
        )}
        <ColourInput
          label={field.kind === 'drawing' ? 'Paper' : 'Behind see-through places'}
          colour={field.behind ?? [255, 255, 255]}
          onChange={(behind) => void saveField({ behind })}
        />
        {preparation.fit === 'border' && (
          <ColourInput label="Border" colour={preparation.border ?? [0, 0, 0]} onChange={(border) => save({ border })} />
        )}
        {field.kind === 'drawing' && (
          <SavedInput
            label="Line width, share of the side"
            value={numberText(field.line_width ?? 0.07)}
            inputMode="decimal"
            onSave={(text) => draft.save({ fields: [{ name: field.name, line_width: parseNumber(text) ?? (text as unknown as number) }] })}
          />
        )}
      </div>
      <div className="mt-2 flex flex-wrap gap-x-6">
        <Tick label="A batch dimension in front" isOn={preparation.batch ?? true} onChange={(batch) => save({ batch })} />
        {field.kind === 'drawing' && (
          <Tick label="Moved to the middle and made to fill the sheet" isOn={field.centred ?? false} onChange={(centred) => void saveField({ centred })} />
        )}
      </div>
      <p role="alert" className="text-[0.88em] text-alert empty:hidden">
        {fault}
      </p>
      <Tries draft={draft} field={field} onUse={(prepared) => save(prepared)} />
      <TryPicture key={JSON.stringify([field.preparation, field.behind])} field={field} draft={draft} />
    </div>
  )
}
