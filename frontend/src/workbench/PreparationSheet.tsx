/** How a picture becomes the model's input, with a picture to try it on. */
import { useState } from 'react'
import { ApiError, type DrawingField, type FieldChanges, type PictureField, type PredictionAnswer } from '../api/client'
import { predict, WHOLE } from '../api/picture'
import { numberText } from '../parts/format'
import { parseNumber } from '../parts/numbers'
import { SavedInput } from './SavedInput'
import type { Draft } from './useDraft'

type SeenField = PictureField | DrawingField
type Preparation = SeenField['preparation']

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
      setFault(error instanceof ApiError ? (error.problem.errors?.[0]?.message ?? error.message) : 'Could not be saved. Try again.')
    }
  }
  const save = (changes: Partial<Preparation>) => void saveField({ preparation: changes as Record<string, unknown> })
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

/** What was tried on known pictures when the model was brought. */
function Tries({ draft, field, onUse }: { draft: Draft; field: SeenField; onUse: (preparation: Preparation) => void }) {
  const tries = draft.demo.pictures?.tries ?? []
  if (!tries.length) return null
  const isUsed = (one: Preparation) => (Object.keys(one) as (keyof Preparation)[]).every((key) => JSON.stringify(one[key]) === JSON.stringify(field.preparation[key]))
  return (
    <details className="mt-2">
      <summary className="text-soft">{tries.length} ways tried on known pictures</summary>
      <table className="mt-1 text-left">
        <thead>
          <tr className="text-soft">
            <th className="pr-6 font-normal">Prepared</th>
            <th className="pr-6 text-right font-normal">Right</th>
            <th className="sr-only">Use</th>
          </tr>
        </thead>
        <tbody>
          {tries.map((one) => (
            <tr key={one.words} className="border-t border-line">
              <td className="py-0.5 pr-6">{one.words}</td>
              <td className="pr-6 text-right">
                {one.n_right} of {one.n_tried}
              </td>
              <td>
                {isUsed(one.preparation) ? (
                  <span className="text-soft">in use</span>
                ) : (
                  <button type="button" className="button-quiet" onClick={() => onUse(one.preparation)}>
                    Use this
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  )
}

/** A picture of the author's, as the draft's model sees it and what it says of it. */
function TryPicture({ field, draft }: { field: SeenField; draft: Draft }) {
  const [said, setSaid] = useState<{ answer: PredictionAnswer | null; fault: string }>({ answer: null, fault: '' })
  const isAlone = draft.demo.fields.length === 1
  const ask = async (file: File) => {
    try {
      const answer = await predict(draft.demo.slug, { [field.name]: { file, cut: WHOLE, turn: 0 } }, { draft: '1', with: 'seen' })
      setSaid({ answer, fault: '' })
    } catch (error) {
      setSaid({ answer: null, fault: error instanceof ApiError ? (error.problem.errors?.[0]?.message ?? error.message) : 'No answer. Try again.' })
    }
  }
  if (!isAlone) return null
  const seen = said.answer?.seen?.[field.name]
  return (
    <div className="mt-3 flex flex-wrap items-center gap-4">
      <label>
        <span className="block text-soft">Try a picture: what the model then sees</span>
        <input
          type="file"
          accept="image/*"
          className="mt-1 text-soft file:mr-4 file:rounded-full file:border file:border-glass file:bg-transparent file:px-4 file:py-1 file:font-bold file:text-glass"
          onChange={(event) => event.target.files?.[0] && void ask(event.target.files[0])}
        />
      </label>
      <p role="status" className="text-alert empty:hidden">
        {said.fault}
      </p>
      {seen && <img src={seen} alt="The picture as the model sees it" width={128} className="border border-line [image-rendering:pixelated]" />}
      {said.answer?.answer.kind === 'class' && <p className="font-bold">{said.answer.answer.headline}</p>}
      {said.answer?.answer.kind === 'number' && (
        <p className="font-bold">
          {said.answer.answer.text} {said.answer.answer.unit}
        </p>
      )}
    </div>
  )
}

interface ChoiceProps<Value extends string> {
  label: string
  value: Value
  options: readonly { value: Value; label: string }[]
  onChange: (value: Value) => void
  className?: string
}

function Choice<Value extends string>({ label, value, options, onChange, className = '' }: ChoiceProps<Value>) {
  return (
    <label className={`block ${className}`}>
      <span className="block text-soft">{label}</span>
      <select aria-label={label} className="w-full border-b border-edge bg-paper py-0.5" value={value} onChange={(event) => onChange(event.target.value as Value)}>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
    </label>
  )
}

function Tick({ label, isOn, onChange }: { label: string; isOn: boolean; onChange: (isOn: boolean) => void }) {
  return (
    <label className="flex min-h-7 items-center gap-2">
      <input type="checkbox" className="size-4 accent-(--glass)" checked={isOn} onChange={(event) => onChange(event.target.checked)} />
      {label}
    </label>
  )
}

function ColourInput({ label, colour, onChange }: { label: string; colour: number[]; onChange: (colour: number[]) => void }) {
  const hex = `#${colour.map((part) => part.toString(16).padStart(2, '0')).join('')}`
  return (
    <label className="col-span-2 block">
      <span className="block text-soft">{label}</span>
      <input
        type="color"
        className="h-7 w-12"
        defaultValue={hex}
        onBlur={(event) => event.target.value !== hex && onChange([1, 3, 5].map((at) => Number.parseInt(event.target.value.slice(at, at + 2), 16)))}
      />
    </label>
  )
}
