/** A check's figures: a small chart that is a table. */
import { Framed } from '../../parts/Framed'
import type { Figures } from './figuresOf'

export function CheckFigures({ figures }: { figures: Figures }) {
  return (
    <details className="mt-1">
      <summary className="button-quiet w-fit">What it rests on</summary>
      <Framed label={figures.caption}>
        <table className="mt-1 text-left text-[0.92em]">
          <caption className="text-left text-soft">{figures.caption}</caption>
          <tbody>
            {figures.lines.map(({ label, share, text }) => (
              <tr key={label} className="border-t border-line">
                <th scope="row" className="max-w-60 py-0.5 pr-4 font-normal">
                  {label}
                </th>
                <td className="w-32 pr-3" aria-hidden="true">
                  <span className="block h-2 bg-glass" style={{ width: `${share * 100}%` }} />
                </td>
                <td className="text-right">{text}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Framed>
      {figures.more > 0 && <p className="text-soft">and {figures.more} more</p>}
    </details>
  )
}
