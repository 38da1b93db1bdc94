/** Model: what was found in the file and the table. */
import type { ReactNode } from 'react'
import type { DemoState } from '../api/client'

export function ModelPlace({ demo }: { demo: DemoState }) {
  const { found } = demo
  return (
    <section aria-labelledby="model-heading">
      <h2 id="model-heading" className="text-[1.25em] font-bold">
        Model
      </h2>
      {[...found.warnings, ...demo.notes].map((warning) => (
        <p key={warning} className="mt-2 text-caution">
          <span aria-hidden="true">! </span>
          {warning}
        </p>
      ))}
      <dl className="mt-4">
        <Fact name="Steps">{found.steps.join(' → ')}</Fact>
        <Fact name="File">{fileWords(demo)}</Fact>
        <Fact name="Answers with">{taskWords(demo)}</Fact>
        <Fact name="Served by">{servedWords(demo)}</Fact>
        {found.classes && <Fact name="Classes, in order">{found.classes.join(', ')}</Fact>}
        <Fact name="Features">
          {demo.fields.length}
          {found.features === null && ', named after the table’s columns'}
        </Fact>
        <Fact name="Reference table">
          {demo.n_reference_rows} rows{demo.target ? `, outcome in ${demo.target}` : ', no outcome'}
        </Fact>
        {demo.ignored.length > 0 && <Fact name="Not asked for">{demo.ignored.join(', ')}</Fact>}
        <Fact name="Known cases">{knownWords(demo)}</Fact>
        {demo.unused.length > 0 && <Fact name="Not used by the model">{demo.unused.join(', ')}</Fact>}
      </dl>
    </section>
  )
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="card-line grid grid-cols-[10rem_1fr] gap-4 py-2">
      <dt className="text-soft">{name}</dt>
      <dd>{children}</dd>
    </div>
  )
}

/** Which kind of file it was, and what it was saved and is opened with. */
function fileWords({ found }: DemoState): string {
  const savedWith = found.saved_with ? `, saved with ${found.saved_with}` : ''
  return `${FORMAT_WORDS[found.format] ?? found.format}${savedWith}; here: ${found.library} ${found.running}`
}

const FORMAT_WORDS: Record<string, string> = {
  pickle: 'joblib or pickle',
  skops: 'skops',
  'xgboost-json': 'XGBoost JSON',
  'xgboost-ubj': 'XGBoost UBJ',
  lightgbm: 'LightGBM text',
  onnx: 'ONNX',
  pmml: 'PMML',
}

function taskWords({ found }: DemoState): string {
  switch (found.task) {
    case 'class':
      return found.gives_probabilities ? 'a class, with probabilities' : 'a class, without probabilities'
    case 'number':
      return 'a number'
    case 'numbers':
      return 'several numbers'
    case 'labels':
      return 'several labels'
  }
}

/** To how many digits answers agree that differ by at most this share. */
function digits(difference: number): number {
  return Math.floor(-Math.log10(difference))
}

/** Whether the compiled model serves, on what evidence, or what stood in the way. */
function servedWords({ compiled, found }: DemoState): string {
  if (compiled.adopted) {
    const same = compiled.largest_difference === 0 ? 'the very same answers' : `the same answers, to ${digits(compiled.largest_difference ?? 1)} digits,`
    return `its compiled model: ${same} as ${found.library} on ${compiled.n_rows_compared} rows. It opens no pickle.`
  }
  return `${found.library} itself. ${compiled.obstacle ?? ''}`
}

/** How the model did on cases it had not seen. */
function knownWords({ evidence, has_known_cases, answer }: DemoState): string {
  if (!evidence) return has_known_cases ? 'stored' : 'none: intervals and calibration need them'
  if (evidence.right !== null && evidence.right !== undefined) {
    return `${evidence.n_known}; the likeliest class was right for ${Math.round(evidence.right * 100)} of 100`
  }
  const decimals = answer.kind === 'number' ? answer.decimals : 2
  return `${evidence.n_known}; half of the answers were off by less than ${evidence.typical_error?.toFixed(decimals)}`
}
