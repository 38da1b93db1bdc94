/** A classifier's report: sentences first, then the table of what was taken for what, and whether probabilities come true. */
import type { AnswerSetting, FullReport } from '../../api/client'
import { ofHundred, shareText } from '../../domain/ofHundred'
import { Framed } from '../Framed'
import { Reliability } from './Reliability'
import { TogetherWords } from './TogetherWords'
import { groupedText } from '../../domain/format'

interface ClassReportProps {
  answer: AnswerSetting
  report: FullReport
  /** Shows the cases of a cell; left out where they are not to be seen one by one. */
  onOpen?: (cases: { truth: string; answered: string }) => void
}

export function ClassReport({ answer, report, onOpen }: ClassReportProps) {
  const labelOf = (name: string) => (answer.kind === 'class' && answer.classes.find((one) => one.name === name)?.label) || name
  if (!report.share_right || !report.confusion) return null
  return (
    <>
      <p className="mt-1 max-w-[65ch] text-[1.1em]">
        Right for {shareText(report.share_right)} of {groupedText(report.cases)} known cases.
      </p>
      <p className="max-w-[65ch] text-soft">
        In brackets, here and below: what the share may be for all cases of this kind, going by how few were tried (95 % interval).
      </p>
      <TogetherWords report={report} />
      <Confusion report={report} labelOf={labelOf} onOpen={onOpen} />
      <ByClass report={report} labelOf={labelOf} />
      <Reliability bins={report.calibration ?? []} of={report.calibration_of ? labelOf(report.calibration_of) : null} />
      {report.log_loss !== null && report.log_loss !== undefined && (
        <p className="mt-3 text-soft">
          Log loss {report.log_loss.toFixed(3)}, Brier score {report.brier?.toFixed(3)}: smaller is better.
        </p>
      )}
    </>
  )
}

type Named = Omit<ClassReportProps, 'answer'> & { labelOf: (name: string) => string }

/** What happened, row by row, against what was answered; a cell opens its cases. */
function Confusion({ report, labelOf, onOpen }: Named) {
  const { classes, counts } = report.confusion!
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="confusion-heading">
      <h3 id="confusion-heading" className="font-bold">
        What was taken for what
      </h3>
      <Framed label="What happened against what was answered">
        <table className="mt-2 text-left">
          <thead>
            <tr className="text-soft">
              <th className="pr-4 font-normal">What happened</th>
              {classes.map((name) => (
                <th key={name} scope="col" className="px-3 text-right font-normal">
                  answered “{labelOf(name)}”
                </th>
              ))}
              <th className="pl-4 text-right font-normal">cases</th>
            </tr>
          </thead>
          <tbody>
            {counts.map((row, at) => {
              const truth = classes[at]!
              const all = row.reduce((sum, count) => sum + count, 0)
              return (
                <tr key={truth} className="border-t border-line">
                  <th scope="row" className="py-1 pr-4 font-normal">
                    {labelOf(truth)}
                  </th>
                  {row.map((count, place) => (
                    <td key={classes[place]} className={`px-3 text-right ${place === at ? 'font-bold' : ''}`}>
                      {count > 0 && onOpen ? (
                        <button type="button" className="button-quiet" onClick={() => onOpen({ truth, answered: classes[place]! })}>
                          {count}
                          <span className="sr-only">
                            {' '}
                            of {labelOf(truth)} answered {labelOf(classes[place]!)}: show them
                          </span>
                        </button>
                      ) : (
                        count
                      )}
                      {all > 0 && <span className="block text-[0.82em] font-normal text-soft">{ofHundred(count / all)} of 100</span>}
                    </td>
                  ))}
                  <td className="pl-4 text-right text-soft">{all}</td>
                </tr>
              )
            })}
          </tbody>
        </table>
      </Framed>
    </section>
  )
}

/** Precision and recall, in words that need neither. */
function ByClass({ report, labelOf }: Omit<Named, 'onOpen'>) {
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="by-class-heading">
      <h3 id="by-class-heading" className="font-bold">
        Class by class
      </h3>
      <Framed label="Precision and recall by class">
        <table className="mt-2 text-left">
          <thead>
            <tr className="text-soft">
              <th className="pr-4 font-normal">Class</th>
              <th className="pr-4 text-right font-normal">answered so, and were (precision)</th>
              <th className="pr-4 text-right font-normal">were so, and found (recall)</th>
              <th className="text-right font-normal">cases</th>
            </tr>
          </thead>
          <tbody>
            {(report.by_class ?? []).map((row) => (
              <tr key={row.class} className="border-t border-line">
                <th scope="row" className="py-1 pr-4 font-normal">
                  {labelOf(row.class)}
                </th>
                <td className="pr-4 text-right">{row.precision === null ? 'never answered' : `${ofHundred(row.precision)} of 100`}</td>
                <td className="pr-4 text-right">{row.recall === null ? 'none were' : `${ofHundred(row.recall)} of 100`}</td>
                <td className="text-right text-soft">{groupedText(row.cases)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Framed>
    </section>
  )
}
