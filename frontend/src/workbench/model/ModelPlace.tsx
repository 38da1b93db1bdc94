/** Model: what was found in the file and the table, what was concluded, and what it is made of. */
import type { ReactNode } from 'react'
import type { DemoState } from '../../api/client'
import { Libraries } from './Libraries'
import { MadeOfTable } from './MadeOfTable'
import { PartsSheet } from './PartsSheet'
import { Process } from './Process'
import { WhileAway } from './WhileAway'
import { Problem } from '../bench/Problem'
import { Questions } from './Questions'
import { useReplace } from '../bench/queries'
import type { Draft } from '../bench/useDraft'
import { AnswerKind, KnownGroup, Outcome } from './AnswerQuestion'
import { groupedText } from '../../domain/format'
import { isSeen } from '../../domain/kinds'

export function ModelPlace({ draft }: { draft: Draft }) {
  const { demo } = draft
  const { found } = demo
  // What is asked about stands above, with what to compare it by.
  const isAsked = (note: string) => demo.questions.some((question) => question.text === note || question.note === note)
  const notes = [...found.warnings, ...demo.notes].filter((note) => !isAsked(note))
  return (
    <section aria-labelledby="model-heading">
      <h2 id="model-heading" className="text-[1.25em] font-bold">
        Model
      </h2>
      <Questions draft={draft} />
      {notes.map((warning) => (
        <p key={warning} className="mt-2 text-caution">
          <span aria-hidden="true">! </span>
          {warning}
        </p>
      ))}
      <dl className="mt-4">
        <Fact name={found.format === 'python' ? 'Function' : 'Steps'}>{found.steps.join(' → ')}</Fact>
        {!demo.bridge && <Fact name="File">{fileWords(demo)}</Fact>}
        <Fact name="Answers with">
          <AnswerKind draft={draft} />
        </Fact>
        <Fact name="Served by">{servedWords(demo)}</Fact>
        {demo.bridge && (
          <Fact name="Its process">
            <Process bridge={demo.bridge} model={demo.found.steps[0]?.replace(/\(\)$/, '')} />
          </Fact>
        )}
        {demo.bridge && (
          <Fact name="While it is away">
            <WhileAway demo={demo} />
          </Fact>
        )}
        {demo.requirements && (
          <Fact name="Libraries of its own">
            <Libraries demo={demo} />
          </Fact>
        )}
        {found.classes && <Fact name="Classes, in order">{found.classes.join(', ')}</Fact>}
        <Fact name="Features">{featureWords(demo)}</Fact>
        <Fact name="Reference table">{demo.has_reference ? `${groupedText(demo.n_reference_rows)} rows` : 'none'}</Fact>
        <Fact name="Outcome">
          <Outcome draft={draft} />
        </Fact>
        {demo.ignored.length > 0 && <Fact name="Not asked for">{demo.ignored.join(', ')}</Fact>}
        <Fact name="Known cases">
          <Known draft={draft} />
        </Fact>
        {demo.has_known_cases && ((demo.known_groups ?? []).length > 0 || demo.known_group) && (
          <Fact name="Each is a case of">
            <KnownGroup draft={draft} />
          </Fact>
        )}
        {(demo.likeness ?? []).map((one) => (
          <Fact key={one.field} name="Unlike known ones">
            {likenessWords(one)}
          </Fact>
        ))}
        {demo.unused.length > 0 && <Fact name="Not used by the model">{demo.unused.join(', ')}</Fact>}
      </dl>
      <MadeOfTable demo={demo} />
      <PartsSheet draft={draft} />
    </section>
  )
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="card-line grid grid-cols-[10rem_minmax(0,1fr)] gap-4 py-2">
      <dt className="text-soft">{name}</dt>
      <dd>{children}</dd>
    </div>
  )
}

/** Which kind of file it was, and what it was saved and is opened with. */
function fileWords({ found }: DemoState): string {
  const savedWith = found.saved_with ? `, saved with ${found.saved_with}` : ''
  const library = found.running.startsWith(found.library) || found.running.startsWith('onnxruntime') ? '' : `${found.library} `
  return `${FORMAT_WORDS[found.format] ?? found.format}${savedWith}; here: ${library}${found.running}`
}

const FORMAT_WORDS: Record<string, string> = {
  pickle: 'joblib or pickle',
  skops: 'skops',
  'xgboost-json': 'XGBoost JSON',
  'xgboost-ubj': 'XGBoost UBJ',
  lightgbm: 'LightGBM text',
  onnx: 'ONNX',
  pmml: 'PMML',
  python: 'Python file',
  'torch-exported': 'PyTorch, an exported program',
  'torch-scripted': 'PyTorch, scripted',
  'torch-pickled': 'PyTorch',
  'torch-weights': 'PyTorch, weights and a class',
  safetensors: 'safetensors, weights and a class',
  keras: 'Keras',
  'keras-h5': 'Keras, HDF5',
}

function featureWords({ fields, found }: DemoState): string {
  const pictures = fields.filter(isSeen)
  const [first] = pictures
  if (!first) return `${fields.length}${found.features === null ? ', named after the table’s columns' : ''}`
  const { layout, width, height } = first.preparation
  if (layout === 'flat') return `${groupedText(found.n_features ?? 0)}: the pixels of a picture of ${width} × ${height}, row by row`
  const beside = fields.length - pictures.length
  return [pictures.length === 1 ? 'a picture' : `${pictures.length} pictures`, ...(beside > 0 ? [`${beside} beside ${pictures.length === 1 ? 'it' : 'them'}`] : [])].join(', ')
}

/** To how many digits answers agree that differ by at most this share. */
function digits(difference: number): number {
  return Math.floor(-Math.log10(difference))
}

/** Whether the compiled model serves, on what evidence, or what stood in the way. */
function servedWords(demo: DemoState): string {
  const { compiled, found } = demo
  if (compiled.adopted) {
    const same = compiled.largest_difference === 0 ? 'the very same answers' : `the same answers, to ${digits(compiled.largest_difference ?? 1)} digits,`
    return `its compiled model: ${same} as ${found.library} on ${groupedText(compiled.n_rows_compared ?? 0)} rows. It opens no pickle.`
  }
  if (demo.bridge) return 'a process of yours, over the bridge.'
  if (found.running.startsWith('onnxruntime, converted')) return `${found.running}; what was compared stands above.`
  const served = found.format === 'python' ? 'the function itself' : `${found.library} itself`
  return `${served}. ${compiled.obstacle ?? ''}`
}

/** How the model did on cases it had not seen; measured again where that was with other pictures than now. */
function Known({ draft }: { draft: Draft }) {
  const { demo } = draft
  const replace = useReplace(demo.slug, draft.onChanged)
  if (!demo.evidence_is_stale) return <>{knownWords(demo)}</>
  return (
    <>
      <span className="text-caution">! measured with pictures prepared otherwise than now; nothing of it holds.</span>{' '}
      <button type="button" className="button-quiet" disabled={replace.isPending} onClick={() => replace.mutate(new FormData())}>
        {replace.isPending ? 'Measuring…' : 'Measure again'}
      </button>
      <Problem error={replace.error} />
    </>
  )
}

function knownWords({ report, has_known_cases, answer }: DemoState): string {
  if (!report) return has_known_cases ? 'there, but they say nothing of this model' : 'none: intervals and calibration need them'
  if (report.right_of_100 !== null) return `${groupedText(report.n_known)}; right for ${report.right_of_100} of 100`
  if (report.typical_error !== null) {
    const unit = answer.kind === 'number' ? (answer.unit ?? '') : ''
    return `${groupedText(report.n_known)}; half of the answers were off by less than ${report.typical_error} ${unit}`.trim()
  }
  const parts = (report.outputs ?? []).map((one) => (one.right_of_100 === null ? `${one.name}: half off by less than ${one.typical_error}` : `${one.name}: right for ${one.right_of_100} of 100`))
  return `${groupedText(report.n_known)}; ${parts.join('; ')}`
}

function likenessWords({ by, n_known, false_alarms }: NonNullable<DemoState['likeness']>[number]): string {
  const share = `${Math.round(false_alarms * 1000) / 10} of 100`
  return `told by a fixed ${by}, compared with ${groupedText(n_known)}; of known ones held back, ${share} would be called so by mistake.`
}
