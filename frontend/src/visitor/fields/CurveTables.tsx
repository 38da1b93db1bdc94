/** All response curves as tables, for whoever would rather read than look. */
import { memo, useState } from 'react'
import type { Field, InputValue } from '../../api/client'
import { numberText, valueText } from '../../domain/format'
import { answerWords, curveAt, type FieldWhy } from '../../domain/why'
import { Framed } from '../../parts/Framed'

const ROWS = 7

export const CurveTables = memo(function CurveTables({ fields, why }: { fields: Field[]; why: Map<string, FieldWhy> }) {
  const [isOpen, setIsOpen] = useState(false)
  const withCurves = fields.filter((field) => why.get(field.name)?.curve)
  if (withCurves.length === 0) return null
  return (
    <details className="text-[0.92em] print:hidden" open={isOpen} onToggle={(event) => setIsOpen(event.currentTarget.open)}>
      <summary className="button-quiet w-fit">Read the curves as tables</summary>
      {isOpen &&
        withCurves.map((field) => {
          const own = why.get(field.name)
          if (!own?.curve) return null
          const isShare = own.scale.factor === 100
          return (
            <Framed key={field.name} label={`The curve of ${field.label}, as a table`}>
            <table className="mt-4 w-full text-left">
              <caption className="text-left font-bold">{field.label}</caption>
              <thead>
                <tr className="text-soft">
                  <th className="py-1 font-normal">If it were</th>
                  <th className="py-1 text-right font-normal">{isShare ? `then “${own.of}”` : `then ${own.of}`}</th>
                </tr>
              </thead>
              <tbody>
                {valuesOf(field, own).map((value) => (
                  <tr key={String(value)} className="border-t border-line">
                    <td className="py-1">{valueText(field, value)}</td>
                    <td className="py-1 text-right">{answerWords(curveAt(own.curve!, value) ?? 0, own.scale)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            </Framed>
          )
        })}
    </details>
  )
})

/** Every option, or evenly spaced numbers on the control's steps. */
function valuesOf(field: Field, why: FieldWhy): InputValue[] {
  if (field.kind !== 'number') return (why.curve?.x ?? []) as InputValue[]
  const values = Array.from({ length: ROWS }, (_, at) => {
    const value = field.minimum + ((field.maximum - field.minimum) * at) / (ROWS - 1)
    return Number(numberText(Math.round(value / field.step) * field.step))
  })
  return [...new Set(values)]
}
