/** The chart of a case among others, as a table. */
import { type Among, type Field, type Page } from '../../api/client'
import { fieldNumberText, numberText } from '../../domain/format'
import { stretchesOf } from '../../domain/among'
import { answerWords, nameOf, scaleOf } from '../../domain/why'
import { Framed } from '../../parts/Framed'

export function AmongTable({ page, field, among }: { page: Page; field: Field; among: Among }) {
  const scale = scaleOf(page.answer, among.of)
  return (
    <details className="mt-1 text-[0.92em]">
      <summary className="button-quiet w-fit">Read as a table</summary>
      <Framed label="Cases, as a table">
      <table className="mt-2 w-full text-left">
        <thead>
          <tr className="text-soft">
            <th className="py-1 font-normal">{field.label}</th>
            <th className="py-1 text-right font-normal">Cases</th>
            <th className="py-1 text-right font-normal">Average answer ({nameOf(page.answer, among.of)})</th>
          </tr>
        </thead>
        <tbody>
          {stretchesOf(field, among, (value) => placeText(field, value)).map((one) => (
            <tr key={one.words} className="border-t border-line">
              <td className="py-1">{one.words}</td>
              <td className="py-1 text-right">{one.count}</td>
              <td className="py-1 text-right">{answerWords(one.mean, scale)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      </Framed>
    </details>
  )
}

function shortNumber(value: number): string {
  return numberText(Number(value.toPrecision(3)))
}

/** A place across the chart: a date where the field's numbers stand for dates. */
export function placeText(field: Field, value: number): string {
  return field.kind === 'number' && field.calendar ? fieldNumberText(field, value) : shortNumber(value)
}
