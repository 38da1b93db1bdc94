/** What one field does on average: its curve, and a table of its directions. */
import { scaleLinear } from 'd3-scale'
import { type Field, type InputValue, type OverallField } from '../../api/client'
import { fieldNumberText, numberText, valueText } from '../../domain/format'
import { answerWords, pushOf, type Scale } from '../../domain/why'
import { Framed } from '../../parts/Framed'

const WIDTH = 600
const HEIGHT = 160
const EDGE = 4

export interface FieldOnAverageProps {
  field: Field
  one: OverallField
  scale: Scale
}

export default function FieldOnAverage({ field, one, scale }: FieldOnAverageProps) {
  return (
    <>
      {one.parts.length > 0 && <DirectionTable field={field} one={one} scale={scale} />}
      {one.x.length > 1 && field.kind === 'number' && <AverageCurve field={field} one={one} scale={scale} />}
    </>
  )
}

function DirectionTable({ field, one, scale }: FieldOnAverageProps) {
  return (
    <Framed label={`${field.label}, as a table`}>
    <table className="mt-2 w-full text-left">
      <thead>
        <tr className="text-soft">
          <th className="py-1 font-normal">With</th>
          <th className="py-1 text-right font-normal">Typically</th>
          <th className="py-1 text-right font-normal">Half of the cases</th>
        </tr>
      </thead>
      <tbody>
        {one.parts.map((part) => {
          const [middle = 0, low = 0, high = 0] = part.spread
          return (
            <tr key={`${part.words} ${part.low}`} className="border-t border-line">
              <td className="py-1">
                {part.words === 'option'
                  ? valueText(field, part.low as InputValue)
                  : `${PART_WORDS[part.words]}: ${endText(field, Number(part.low))} to ${valueText(field, part.high as InputValue)}`}
              </td>
              <td className={`py-1 text-right ${middle > 0 ? 'text-raise' : 'text-lower'}`}>{signed(middle, scale)}</td>
              <td className="py-1 text-right text-soft">
                {pushOf(low, scale).short} to {pushOf(high, scale).short}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
    </Framed>
  )
}

const PART_WORDS = { low: 'low values', middle: 'middle values', high: 'high values', option: '' }

/** The mean of the cases' curves, with the middle half of them. */
function AverageCurve({ field, one, scale }: FieldOnAverageProps) {
  const x = one.x as number[]
  const [from, to] = [x[0] ?? 0, x.at(-1) ?? 1]
  const all = one.y.flat()
  const low = scale.factor === 100 ? 0 : Math.min(...all)
  const high = Math.max(...all)
  const across = scaleLinear([from, to], [0, WIDTH])
  const down = scaleLinear([low, high], [HEIGHT - EDGE, EDGE])
  const line = (part: 0 | 1 | 2) => one.y.map((spread, at) => `${across(x[at] ?? 0).toFixed(1)} ${down(spread[part] ?? 0).toFixed(1)}`)
  const first = one.y[0]?.[0] ?? 0
  const last = one.y.at(-1)?.[0] ?? 0
  const words = `Average answer ${answerWords(first, scale)} at ${endText(field, from)}, ${answerWords(last, scale)} at ${endText(field, to)}.`
  return (
    <figure className="mt-3">
      <figcaption className="text-soft">{words} The band holds the middle half of the cases.</figcaption>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={words} className="mt-1 w-full border-b border-edge">
        <path d={`M${line(1).join(' L')} L${line(2).reverse().join(' L')} Z`} fill="var(--glass-pale)" />
        <path d={`M${line(0).join(' L')}`} fill="none" stroke="var(--glass)" strokeWidth="2.5" />
      </svg>
      <div className="flex justify-between text-[0.9em] text-soft" aria-hidden="true">
        <span>{endText(field, from)}</span>
        <span>{valueText(field, to)}</span>
      </div>
    </figure>
  )
}

function signed(value: number, scale: Scale): string {
  const push = pushOf(value, scale)
  return push.direction === 'none' ? '0' : `${push.direction === 'up' ? '▲' : '▼'} ${push.short}`
}

/** A value without its unit. */
const endText = (field: Field, value: number) => (field.kind === 'number' ? fieldNumberText(field, value) : numberText(value))
