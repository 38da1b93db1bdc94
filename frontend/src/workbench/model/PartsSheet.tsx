/** What a demo was made of: each part can be given, replaced or taken away later; visitors keep the version they see. */
import { useRef, useState } from 'react'
import type { DemoState } from '../../api/client'
import { SLOT_WORDS, type Slot } from '../../domain/fileKinds'
import { Problem } from '../bench/Problem'
import { useReplace } from '../bench/queries'
import type { Draft } from '../bench/useDraft'
import { BuildLog } from '../shelf/BuildLog'
import { FilesInput } from '../shelf/FilesInput'
import { OfferedLibraries } from '../shelf/OfferedLibraries'
import { questionIn, TableQuestion } from '../shelf/TableQuestion'
import { Comparison } from './Comparison'
import { takenWords } from './differenceWords'
import { useChosenParts, type Chosen } from './useChosenParts'

interface Part {
  name: Slot
  label: string
  accept?: string
  has: (demo: DemoState) => boolean
  /** Whether the demo can do without it. */
  canGo: boolean
  help: string
  /** Only where the model is code or needs some, or where it does not. */
  isFor?: 'code' | 'others'
}

const TABLES = '.csv,.tsv,.txt,.xlsx,.parquet,.jsonl,.json,text/csv'
const PARTS: Part[] = [
  { name: 'model', label: 'Model file', has: () => true, canGo: false, help: 'Another one, or a Python file with a function, is compared with this one first.' },
  { name: 'beside', label: 'Files beside it', accept: '.zip,.py,application/zip,text/x-python', has: (demo) => demo.has_beside === true, canGo: true, isFor: 'code', help: 'Of a function a zip of what it reads; of a network the Python file with its class.' },
  { name: 'requirements', label: 'Libraries of its own', accept: '.txt,text/plain', has: (demo) => Boolean(demo.requirements), canGo: true, help: 'A requirements.txt: packages by name and version. A pickle or a function then runs with those.' },
  { name: 'reference', label: 'Reference table', accept: TABLES, has: (demo) => demo.has_reference, canGo: false, help: 'Rows like those the model was trained on.' },
  { name: 'preprocessor', label: 'Preprocessor', has: (demo) => demo.has_preprocessor, canGo: true, isFor: 'others', help: 'A fitted transformer, if it was saved in a file of its own.' },
  { name: 'known', label: 'Known cases', accept: `${TABLES},.zip`, has: (demo) => demo.has_known_cases, canGo: true, help: 'Rows you kept back, with their outcome; for pictures a zip of folders named after classes.' },
  { name: 'labels', label: 'Class names', accept: '.txt,.csv,text/plain', has: (demo) => demo.has_labels, canGo: true, help: 'One a line, in the model’s order; or a CSV with the model’s classes in one column.' },
]

/** A function, or a network, whose class may be in a file of its own. */
function isCode({ found }: DemoState): boolean {
  return found.format === 'python' || found.library === 'PyTorch' || found.library === 'Keras'
}

export function PartsSheet({ draft }: { draft: Draft }) {
  const replace = useReplace(draft.demo.slug, draft.onChanged)
  const { chosen, unplaced, compare, choose, place, tell, leave, form, names } = useChosenParts(draft.demo.slug)
  const [doing, setDoing] = useState('')
  const isBusy = replace.isPending || compare.isPending
  const isChosen = chosen.size > 0

  // What came of the last ones is said no longer.
  const give = (files: Chosen) => (replace.reset(), choose(files))
  const drop = (files: File[]) => (replace.reset(), void place(files))
  const send = (sent: FormData, what: string) => {
    setDoing(what)
    replace.mutate(sent, { onSuccess: leave, onSettled: () => setDoing('') })
  }
  const take = (renames: Record<string, string>) => {
    const taken = form()
    if (Object.keys(renames).length > 0) taken.append('renames', JSON.stringify(renames))
    send(taken, `Taking over ${names}…`)
  }
  const takeAway = (part: Part) => {
    leave()
    const nothing = new FormData()
    if (part.name === 'labels' || part.name === 'requirements') nothing.append(part.name, '')
    else nothing.append(part.name, new Blob([]), 'empty')
    send(nothing, `Taking away ${SLOT_WORDS[part.name]}…`)
  }
  const done = replace.data
  const question = questionIn(compare.error)
  return (
    <section
      className="mt-6"
      aria-labelledby="parts-heading"
      data-testid="parts"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        if (!isBusy) drop([...event.dataTransfer.files])
      }}
    >
      <h3 id="parts-heading" className="font-bold">
        What it is made of
      </h3>
      <ul className="mt-1">
        {PARTS.filter((part) => !part.isFor || (part.isFor === 'code') === isCode(draft.demo)).map((part) => (
          <PartRow
            key={part.name}
            part={part}
            isThere={part.has(draft.demo)}
            chosen={chosen.get(part.name)?.name}
            isBusy={isBusy}
            onGive={(file) => give(new Map([[part.name, file]]))}
            onTakeAway={() => takeAway(part)}
          />
        ))}
      </ul>
      <div className="card-line pt-3">
        <FilesInput label="Several at once, a model with its new table: choose them here, or drop them on this list" isMultiple onFiles={drop} />
      </div>
      <p role="status" className="mt-2 text-soft">
        {[doing || (compare.isPending ? compare.words : done && !isChosen ? takenWords(done.differences) : ''), unplaced].filter(Boolean).join(' ')}{' '}
        {compare.isPending && (
          <button type="button" className="button-quiet" onClick={leave}>
            Cancel
          </button>
        )}
      </p>
      {compare.log && <BuildLog lines={compare.log} />}
      {compare.found && isChosen && (
        <Comparison key={names} demo={draft.demo} files={names} found={compare.found} isBusy={replace.isPending} onTake={take} onLeave={leave} />
      )}
      {question ? <TableQuestion question={question} error={compare.error} onTold={tell} /> : <Problem error={replace.error ?? compare.error} />}
      <OfferedLibraries error={compare.error} given={draft.demo.requirements ?? ''} onTold={tell} />
      {compare.error != null && (
        <p className="mt-1 text-soft">
          All is as it was. Add the file that goes with {chosen.size === 1 ? 'it' : 'them'}, or{' '}
          <button type="button" className="button-quiet" onClick={leave}>
            let go of {names}
          </button>
        </p>
      )}
    </section>
  )
}

interface PartRowProps {
  part: Part
  isThere: boolean
  /** The file that was chosen for it and is not taken over yet. */
  chosen: string | undefined
  isBusy: boolean
  onGive: (file: File) => void
  onTakeAway: () => void
}

function PartRow({ part, isThere, chosen, isBusy, onGive, onTakeAway }: PartRowProps) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <li className="card-line grid grid-cols-[10rem_1fr_auto] items-baseline gap-4 py-2">
      <span className="text-soft">{part.label}</span>
      <span>
        {isThere ? 'there' : 'none'}
        {chosen && <strong>; chosen, not taken over yet: {chosen}</strong>} <span className="text-[0.93em] text-soft">{part.help}</span>
      </span>
      <span className="flex gap-4">
        <input
          ref={input}
          type="file"
          className="sr-only"
          tabIndex={-1}
          accept={part.accept}
          aria-label={`${part.label}, a file`}
          onChange={(event) => {
            const file = event.target.files?.[0]
            event.target.value = ''
            if (file) onGive(file)
          }}
        />
        <button type="button" className="button-quiet" disabled={isBusy} onClick={() => input.current?.click()}>
          {isThere ? 'Replace' : 'Give'}
          <span className="sr-only"> {part.label.toLowerCase()}</span>
        </button>
        {part.canGo && isThere && (
          <button type="button" className="button-quiet" disabled={isBusy} onClick={onTakeAway}>
            Take away<span className="sr-only"> {part.label.toLowerCase()}</span>
          </button>
        )}
      </span>
    </li>
  )
}
