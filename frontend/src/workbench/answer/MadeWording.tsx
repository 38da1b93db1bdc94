/** An answer that is a picture, or a class for each pixel: what it is called, and how it is read from the output. */
import type { MaskSetting, PictureSetting } from '../../api/client'
import { Choice } from '../bench/Choice'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { ReadingQuestion } from './ReadingQuestion'
import { useReading } from './useReading'

const LAYOUTS = [
  { value: 'channels first', label: 'channels first' },
  { value: 'channels last', label: 'channels last' },
  { value: 'grey', label: 'one number a pixel' },
] as const
const SCALES = [
  { value: '0..1', label: 'from 0 to 1' },
  { value: '0..255', label: 'from 0 to 255' },
  { value: '-1..1', label: 'from −1 to 1' },
] as const
const ORDERS = [
  { value: 'rgb', label: 'red, green, blue' },
  { value: 'bgr', label: 'blue, green, red' },
] as const
const MASK_LAYOUTS = [
  { value: 'scores first', label: 'a score each class, first' },
  { value: 'scores last', label: 'a score each class, last' },
  { value: 'numbers', label: 'the class’s number' },
] as const
const LINKS = [
  { value: 'none', label: 'as it is' },
  { value: 'sigmoid', label: 'through a sigmoid' },
] as const

export function PictureWording({ draft, setting }: { draft: Draft; setting: PictureSetting }) {
  const { save, fault } = useReading<PictureSetting['reading']>(draft)
  const { reading } = setting
  return (
    <>
      <p className="max-w-[65ch] text-soft">A picture, made of the one that visitors give.</p>
      <div className="mt-4 grid max-w-lg grid-cols-2 gap-4">
        <SavedInput label="What visitors give" value={setting.before ?? ''} onSave={(before) => draft.save({ answer: { before } })} />
        <SavedInput label="What comes of it" value={setting.name ?? ''} onSave={(name) => draft.save({ answer: { name } })} />
      </div>
      <section className="mt-6" data-testid="reading" aria-labelledby="reading-heading">
        <h3 id="reading-heading" className="font-bold">
          How the picture is read
        </h3>
        <ReadingQuestion draft={draft} confirm="The answer is read as it is meant" />
        <div className="mt-2 grid grid-cols-3 gap-x-4 gap-y-2">
          <Choice label={`Layout of ${reading.output}`} value={reading.layout ?? 'channels first'} options={LAYOUTS} onChange={(layout) => save({ layout })} />
          <Choice label="Black to white" value={reading.scale ?? '0..1'} options={SCALES} onChange={(scale) => save({ scale })} />
          <Choice label="Order" value={reading.order ?? 'rgb'} options={ORDERS} onChange={(order) => save({ order })} />
        </div>
        <p role="alert" className="text-[0.88em] text-alert empty:hidden">
          {fault}
        </p>
      </section>
    </>
  )
}

export function MaskWording({ draft, setting }: { draft: Draft; setting: MaskSetting }) {
  const { set, save, fault } = useReading<MaskSetting['reading']>(draft)
  const { reading } = setting
  const names = [{ value: '', label: 'none of them' }, ...setting.labels.map((one) => ({ value: one.name, label: one.label }))]
  return (
    <>
      <p className="max-w-[65ch] text-soft">A class for each pixel, of {setting.labels.length}.</p>
      <ul className="mt-4">
        {setting.labels.map((one) => (
          <li key={one.name} className="card-line grid grid-cols-[9rem_1fr] items-end gap-4 py-2">
            <code className="font-sans">{one.name}</code>
            <SavedInput label="Name" value={one.label} onSave={(label) => draft.save({ answer: { labels: [{ name: one.name, label }] } })} />
          </li>
        ))}
      </ul>
      <section className="mt-6" data-testid="reading" aria-labelledby="reading-heading">
        <h3 id="reading-heading" className="font-bold">
          How classes are read
        </h3>
        <ReadingQuestion draft={draft} confirm="The answer is read as it is meant" />
        <div className="mt-2 grid grid-cols-3 gap-x-4 gap-y-2">
          <Choice label="Nothing in particular is" value={setting.nothing ?? ''} options={names} onChange={(nothing) => void draft.save({ answer: { nothing } })} />
          <Choice label={`In ${reading.output} stands`} value={reading.layout ?? 'scores first'} options={MASK_LAYOUTS} onChange={(layout) => save({ layout })} />
          <Choice label="One score a pixel is taken" value={reading.link ?? 'none'} options={LINKS} onChange={(link) => save({ link })} />
          <SavedInput
            label="and is enough from, of 100"
            value={String(Math.round(100 * (reading.threshold ?? 0.5)))}
            inputMode="decimal"
            onSave={(text) => set({ threshold: Number((Number(text) / 100).toFixed(4)) })}
          />
        </div>
        <p role="alert" className="text-[0.88em] text-alert empty:hidden">
          {fault}
        </p>
      </section>
    </>
  )
}
