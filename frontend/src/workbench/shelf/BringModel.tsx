/** Bringing a model: a file and a table, and what came of them. */
import { useRef, useState } from 'react'
import { Link, useLocation } from 'wouter'
import { bringModel } from '../../api/environments'
import { TextInput } from '../../parts/TextInput'
import { Problem } from '../bench/Problem'
import { BringFolder } from './BringFolder'
import { BuildLog } from './BuildLog'
import { ConnectNotebook } from './ConnectNotebook'
import { FilePlace } from './FilePlace'
import { FilesInput } from './FilesInput'
import { CHOSEN_LIBRARIES, LibrariesPlace } from './LibrariesPlace'
import { OfferedLibraries } from './OfferedLibraries'
import { moveIfElsewhere, placeFiles } from './placeFiles'
import { questionIn, TableQuestion } from './TableQuestion'

type Progress =
  | { status: 'idle' }
  /** `sent` from 0 to 1. */
  | { status: 'sending'; sent: number }
  | { status: 'opening' }
  | { status: 'building'; log: string[] }
  /** `given` are the requirements that were sent. */
  | { status: 'failed'; error: unknown; given: string }

export function BringModel() {
  const [, navigate] = useLocation()
  const [progress, setProgress] = useState<Progress>({ status: 'idle' })
  const isBusy = progress.status !== 'idle' && progress.status !== 'failed'

  const form = useRef<HTMLFormElement>(null)
  const stop = useRef<AbortController>(undefined)
  // What was answered to questions about the tables.
  const told = useRef<Record<string, string>>({})
  const [placed, setPlaced] = useState('')
  const takeFiles = async (files: File[]) => form.current && setPlaced(await placeFiles(form.current, files))
  const submit = async (filled: HTMLFormElement, words: Record<string, string> = {}) => {
    const data = new FormData(filled)
    told.current = { ...told.current, ...words }
    const chosen = data.get(CHOSEN_LIBRARIES)
    data.delete(CHOSEN_LIBRARIES)
    if (chosen && !isFilled(data.get('requirements'))) data.set('requirements', chosen)
    for (const [name, word] of Object.entries(told.current)) data.set(name, word)
    // Parts that were left empty are not sent: an empty file is not the same as none. Listed first: deleting while going
    // through the form itself would pass over every other one.
    const empty = Array.from(data.entries()).filter(([, value]) => !isFilled(value))
    for (const [name] of empty) data.delete(name)
    setProgress({ status: 'sending', sent: 0 })
    try {
      stop.current = new AbortController()
      const demo = await bringModel(data, ({ sent, log }) => setProgress(log ? { status: 'building', log } : sent < 1 ? { status: 'sending', sent } : { status: 'opening' }), stop.current.signal)
      navigate(`/demos/${demo.slug}`)
    } catch (error) {
      const isGivenUp = error instanceof DOMException && error.name === 'AbortError'
      setProgress(isGivenUp ? { status: 'idle' } : { status: 'failed', error, given: await textOf(data.get('requirements')) })
    }
  }

  return (
    <main className="mx-auto w-full max-w-3xl px-6 py-8">
      <h1 className="text-[1.6em] font-bold">Bring a model</h1>
      <p className="mt-1 max-w-[65ch] text-soft">
        A model file can run code. It is opened only in a confined process, without network and without access to anything
        else here.
      </p>
      <form
        ref={form}
        className="mt-6"
        encType="multipart/form-data"
        onSubmit={(event) => (event.preventDefault(), void submit(event.currentTarget))}
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault()
          void takeFiles([...event.dataTransfer.files])
        }}
        onChange={(event) => event.target instanceof HTMLInputElement && event.target.type === 'file' && form.current && void moveIfElsewhere(form.current, event.target).then((moved) => moved && setPlaced(moved))}
      >
        <div className="card-line border-t-0 pb-4" data-testid="all-files">
          <FilesInput label="All files at once: choose them here, or drop them anywhere on this page" isMultiple onFiles={(files) => void takeFiles(files)} />
          <p role="status" className="mt-1 text-soft">
            {placed || 'Each finds its place below by what it is; you can still put it elsewhere.'}
          </p>
        </div>
        <FilePlace
          name="model"
          label="Model file, or a Python file with a function"
          help="What your training script saved: scikit-learn by joblib, pickle or skops; XGBoost .json or .ubj; LightGBM .txt; ONNX; PMML; PyTorch and Keras, with libraries of their own. Or a function: its type hints become the fields."
          required
        />
        <FilePlace
          name="reference"
          label="Reference table"
          help="CSV, Excel, JSON lines or Parquet with rows like those the model was trained on. Names, ranges, defaults and choices come from it. Functions with type hints, models of pictures or of one text need none."
          accept=".csv,.tsv,.txt,.xlsx,.jsonl,.json,.parquet,text/csv"
        />
        <div className="card-line grid gap-6 py-5 sm:grid-cols-2">
          <TextInput name="title" label="Title" maxLength={200} help="What visitors read on top. You can change it later." placeholder="Will it crack?" />
          <TextInput name="target" label="Outcome’s column" help="In the reference table or the known cases; several parted by commas. Left empty, it is what is no feature." />
        </div>
        <details className="card-line py-4">
          <summary className="font-bold">Libraries of its own, files beside it, preprocessor, known cases, class names</summary>
          <LibrariesPlace />
          <FilePlace name="beside" label="Files beside a function or a network" help="Of a function a zip of what it reads: weights, encoders, tables, modules of its own. Of a network’s weights the Python file with its class." accept=".zip,.py,application/zip,text/x-python" />
          <FilePlace name="preprocessor" label="Preprocessor" help="A fitted scikit-learn transformer, if it was saved in a file of its own. The model’s inputs go through it first." />
          <FilePlace name="known" label="Known cases" help="Rows you kept back, with their outcome; for a model of pictures a zip of folders named after classes. Ways to prepare pictures are then tried on them." accept=".csv,.tsv,.txt,.xlsx,.jsonl,.json,.parquet,.zip,text/csv,application/zip" />
          <TextInput name="known_group" className="pb-5" label="Column that says which known cases are of one thing" help="Where several rows are of one batch, one person, one day: they go wrong together, and count as one for how sure the report is." />
          <FilePlace name="labels" label="Class names" help="A text file with one name a line, in the order of the model’s classes; or a CSV with the model’s classes in one column." accept=".txt,.csv,text/plain,text/csv" />
        </details>
        <div className="card-line flex items-center gap-6 pt-5">
          <button type="submit" className="button-primary" disabled={isBusy}>
            Open the model
          </button>
          <Link href="/" className="button-quiet">
            Back to the shelf
          </Link>
          <p role="status" className="text-soft">
            {progress.status === 'sending' && `Sending: ${Math.round(progress.sent * 100)} %`}
            {progress.status === 'opening' && 'Opening the model and reading the table…'}
            {progress.status === 'building' && 'Building the libraries that it asks for…'}
          </p>
          {isBusy && (
            <button type="button" className="button-quiet" onClick={() => stop.current?.abort()}>
              Cancel
            </button>
          )}
        </div>
      </form>
      {progress.status === 'building' && <BuildLog lines={progress.log} />}
      {progress.status === 'failed' && <Failure error={progress.error} given={progress.given} onTold={(words) => form.current && void submit(form.current, words)} />}
      <ConnectNotebook />
      <BringFolder />
    </main>
  )
}

function isFilled(value: FormDataEntryValue | null): value is FormDataEntryValue {
  return value instanceof File ? value.size > 0 : (value ?? '').trim() !== ''
}

function textOf(value: FormDataEntryValue | null): Promise<string> {
  return value instanceof File ? value.text() : Promise.resolve(value ?? '')
}

/** What went wrong; where a table can be read in several ways, the question about it. */
function Failure({ error, given, onTold }: { error: unknown; given: string; onTold: (words: Record<string, string>) => void }) {
  const question = questionIn(error)
  return (
    <div className="card-line mt-5 pt-4">
      {question ? (
        <TableQuestion question={question} error={error} onTold={onTold} />
      ) : (
        <>
          <Problem error={error} />
          <OfferedLibraries error={error} given={given} onTold={onTold} />
          <p className="mt-2 text-soft">Nothing was kept of it. Mend it and try again.</p>
        </>
      )}
    </div>
  )
}
