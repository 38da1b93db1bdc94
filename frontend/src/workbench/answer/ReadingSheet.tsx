/** How boxes are read from the model's outputs: the readings that were tried, and each setting by itself. */
import type { BoxesSetting, BoxReading } from '../../api/client'
import { numberText } from '../../domain/format'
import { parseNumber } from '../../domain/numbers'
import { Choice } from '../bench/Choice'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { ReadingQuestion } from './ReadingQuestion'
import { ReadingTries } from './ReadingTries'
import { useReading } from './useReading'

const FORMS = [
  { value: 'two corners', label: 'left, top, right, bottom' },
  { value: 'two corners, down first', label: 'top, left, bottom, right' },
  { value: 'centre and size', label: 'centre, width, height' },
  { value: 'corner and size', label: 'left, top, width, height' },
] as const
const UNITS = [
  { value: 'pixels', label: 'pixels, as the model sees it' },
  { value: 'shares', label: 'shares of the picture' },
] as const
const SIDES = [
  { value: 'rows', label: 'a row each' },
  { value: 'columns', label: 'a column each' },
] as const
const LINKS = [
  { value: 'none', label: 'scores as they are' },
  { value: 'sigmoid', label: 'a sigmoid makes scores of them' },
  { value: 'softmax', label: 'a softmax makes scores of them' },
] as const
const BACKGROUNDS = [
  { value: 'none', label: 'no class means nothing' },
  { value: 'first', label: 'the first class is nothing' },
  { value: 'last', label: 'the last class is nothing' },
] as const
const FIRSTS = [
  { value: '0', label: 'from 0' },
  { value: '1', label: 'from 1' },
] as const
const THINNING = [
  { value: 'ours', label: 'thinned out here' },
  { value: 'inside', label: 'the model does that' },
] as const
/** Outputs of their own, and where numbers stand in a table of candidates. */
const OUTPUTS = { boxes: 'Boxes in the output', scores: 'Scores in the output', classes: 'Classes in the output', chosen: 'Which are left, in the output', count: 'How many count, in the output' } as const
const PLACES = { box_at: 'The box begins at number', score_at: 'The score is number', class_at: 'The class is number', classes_from: 'Scores of classes from number' } as const

export function ReadingSheet({ draft, setting }: { draft: Draft; setting: BoxesSetting }) {
  const { reading } = setting
  const { set, save, fault } = useReading<BoxReading>(draft)
  const names = Object.keys(draft.demo.boxes?.outputs ?? {})
  return (
    <section className="mt-6" data-testid="reading" aria-labelledby="reading-heading">
      <h3 id="reading-heading" className="font-bold">
        How boxes are read
      </h3>
      <ReadingQuestion draft={draft} confirm="The boxes lie where they should">
        <ReadingTries draft={draft} reading={reading} onUse={save} />
      </ReadingQuestion>
      <div className="mt-3 grid grid-cols-3 gap-x-4 gap-y-2">
        <Choice label="Four numbers of a box" value={reading.form ?? 'two corners'} options={FORMS} onChange={(form) => save({ form })} />
        <Choice label="In" value={reading.unit ?? 'pixels'} options={UNITS} onChange={(unit) => save({ unit })} />
        <Choice label="Candidates" value={reading.candidates ?? 'rows'} options={SIDES} onChange={(candidates) => save({ candidates })} />
        <Choice label="Numbers of scores" value={reading.link ?? 'none'} options={LINKS} onChange={(link) => save({ link })} />
        <Choice label="Nothing at all" value={reading.background ?? 'none'} options={BACKGROUNDS} onChange={(background) => save({ background })} />
        <Choice label="Classes are counted" value={String(reading.first_class ?? 0) as '0' | '1'} options={FIRSTS} onChange={(first) => save({ first_class: Number(first) as 0 | 1 })} />
        <Choice label="Boxes over one another" value={reading.suppression ?? 'ours'} options={THINNING} onChange={(suppression) => save({ suppression })} />
        {reading.suppression !== 'inside' && (
          <SavedInput
            label="One of two goes that share more than, of 100"
            value={String(Math.round(100 * (reading.overlap ?? 0.5)))}
            inputMode="decimal"
            onSave={(text) => set({ overlap: Number((Number(text) / 100).toFixed(4)) })}
          />
        )}
      </div>
      <details className="mt-2">
        <summary className="text-soft">Which output, and where in it</summary>
        <div className="mt-1 grid grid-cols-3 gap-x-4 gap-y-2">
          {(Object.keys(OUTPUTS) as (keyof typeof OUTPUTS)[]).map((key) => (
            <Choice
              key={key}
              label={OUTPUTS[key]}
              value={reading[key] ?? ''}
              options={[...(key === 'boxes' ? [] : [{ value: '', label: 'in none of its own' }]), ...names.map((name) => ({ value: name, label: `${name} (${axes(draft, name)})` }))]}
              onChange={(name) => save({ [key]: name })}
            />
          ))}
          {(Object.keys(PLACES) as (keyof typeof PLACES)[]).map((key) => (
            <SavedInput
              key={key}
              label={PLACES[key]}
              value={typeof reading[key] === 'number' ? numberText(reading[key]) : ''}
              placeholder="nowhere"
              inputMode="decimal"
              onSave={(text) => set({ [key]: text.trim() === '' ? null : ((parseNumber(text) ?? text) as number) })}
            />
          ))}
        </div>
        <p className="mt-1 text-[0.93em] text-soft">Numbers of a candidate are counted from 0.</p>
      </details>
      <p role="alert" className="text-[0.88em] text-alert empty:hidden">
        {fault}
      </p>
    </section>
  )
}

function axes(draft: Draft, name: string): string {
  return (draft.demo.boxes?.outputs?.[name] ?? []).map((size) => size ?? 'any').join('\u00a0×\u00a0')
}
