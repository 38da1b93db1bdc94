/** What a demo was made of: each part can be given, replaced or taken away later; visitors keep the version they see. */
import { useRef, useState } from 'react'
import type { DemoState } from '../../api/client'
import { assign, SLOT_WORDS, type Slot } from '../../domain/fileKinds'
import { Problem } from '../bench/Problem'
import { useReplace } from '../bench/queries'
import type { Draft } from '../bench/useDraft'
import { FilesInput } from '../shelf/FilesInput'
import { headOf } from '../shelf/placeFiles'
import { questionIn, TableQuestion } from '../shelf/TableQuestion'
import { Comparison } from './Comparison'
import { takenWords } from './differenceWords'
import { useCompare } from './useCompare'

interface Part {
  name: Slot
  label: string
  accept?: string
  has: (demo: DemoState) => boolean
  /** Whether the demo can do without it. */
  canGo: boolean
  help: string
}

const TABLES = '.csv,.tsv,.txt,.xlsx,.parquet,.jsonl,.json,text/csv'
const PARTS: Part[] = [
  { name: 'model', label: 'Model file', has: () => true, canGo: false, help: 'Another one is compared with this one first.' },
  { name: 'reference', label: 'Reference table', accept: TABLES, has: (demo) => demo.has_reference, canGo: false, help: 'Rows like those the model was trained on.' },
  { name: 'preprocessor', label: 'Preprocessor', has: (demo) => demo.has_preprocessor, canGo: true, help: 'A fitted transformer, if it was saved in a file of its own.' },
  { name: 'known', label: 'Known cases', accept: `${TABLES},.zip`, has: (demo) => demo.has_known_cases, canGo: true, help: 'Rows you kept back, with their outcome; for pictures a zip of folders named after classes.' },
  { name: 'labels', label: 'Class names', accept: '.txt,.csv,text/plain', has: (demo) => demo.has_labels, canGo: true, help: 'One a line, in the model’s order; or a CSV with the model’s classes in one column.' },
]

type Chosen = ReadonlyMap<Slot, File>
const NONE: Chosen = new Map()

export function PartsSheet({ draft }: { draft: Draft }) {
  const replace = useReplace(draft.demo.slug, draft.onChanged)
  const compare = useCompare(draft.demo.slug)
  const [doing, setDoing] = useState('')
  // Files that are looked at together, before any is taken over.
  const [chosen, setChosen] = useState<Chosen>(NONE)
  const [unplaced, setUnplaced] = useState('')
  // What was answered to questions about the tables.
  const [told, setTold] = useState<Record<string, string>>({})
  const isBusy = replace.isPending || compare.isPending

  const leave = () => {
    compare.giveUp()
    setChosen(NONE)
    setUnplaced('')
    setTold({})
  }
  const choose = (files: Chosen) => {
    const all = new Map([...chosen, ...files])
    setChosen(all)
    replace.reset()
    if (all.size > 0) compare.begin(formOf(all, told))
  }
  const tell = (words: Record<string, string>) => {
    const every = { ...told, ...words }
    setTold(every)
    compare.begin(formOf(chosen, every))
  }
  const place = async (files: File[]) => {
    const heads = await Promise.all(files.map(async (file) => ({ file, head: await headOf(file) })))
    const { slots, left } = assign(heads, new Set())
    const names = left.map((file) => file.name).join(', ')
    setUnplaced(names && `No place was found for ${names}: give ${left.length === 1 ? 'it' : 'them'} where you mean ${left.length === 1 ? 'it' : 'them'} above.`)
    if (slots.size > 0) choose(slots)
  }
  const send = (form: FormData, what: string) => {
    setDoing(what)
    replace.mutate(form, { onSuccess: leave, onSettled: () => setDoing('') })
  }
  const take = (renames: Record<string, string>) => {
    const form = formOf(chosen, told)
    if (Object.keys(renames).length > 0) form.append('renames', JSON.stringify(renames))
    send(form, `Taking over ${namesOf(chosen)}…`)
  }
  const takeAway = (part: Part) => {
    leave()
    const form = new FormData()
    if (part.name === 'labels') form.append(part.name, '')
    else form.append(part.name, new Blob([]), 'empty')
    send(form, `Taking away ${SLOT_WORDS[part.name]}…`)
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
        if (!isBusy) void place([...event.dataTransfer.files])
      }}
    >
      <h3 id="parts-heading" className="font-bold">
        What it is made of
      </h3>
      <ul className="mt-1">
        {PARTS.map((part) => (
          <PartRow
            key={part.name}
            part={part}
            isThere={part.has(draft.demo)}
            chosen={chosen.get(part.name)?.name}
            isBusy={isBusy}
            onGive={(file) => choose(new Map([[part.name, file]]))}
            onTakeAway={() => takeAway(part)}
          />
        ))}
      </ul>
      <div className="card-line pt-3">
        <FilesInput label="Several at once, a model with its new table: choose them here, or drop them on this list" isMultiple onFiles={(files) => void place(files)} />
      </div>
      <p role="status" className="mt-2 text-soft">
        {[doing || (compare.isPending ? compare.words : done && chosen.size === 0 ? takenWords(done.differences) : ''), unplaced].filter(Boolean).join(' ')}{' '}
        {compare.isPending && (
          <button type="button" className="button-quiet" onClick={leave}>
            Cancel
          </button>
        )}
      </p>
      {compare.found && chosen.size > 0 && (
        <Comparison key={namesOf(chosen)} demo={draft.demo} files={namesOf(chosen)} found={compare.found} isBusy={replace.isPending} onTake={take} onLeave={leave} />
      )}
      {question ? <TableQuestion question={question} error={compare.error} onTold={tell} /> : <Problem error={replace.error ?? compare.error} />}
      {compare.error != null && (
        <p className="mt-1 text-soft">
          All is as it was. Add the file that goes with {chosen.size === 1 ? 'it' : 'them'}, or{' '}
          <button type="button" className="button-quiet" onClick={leave}>
            let go of {namesOf(chosen)}
          </button>
        </p>
      )}
    </section>
  )
}

const namesOf = (chosen: Chosen) => [...chosen.values()].map((file) => file.name).join(', ')

function formOf(files: Chosen, told: Record<string, string>): FormData {
  const form = new FormData()
  for (const [name, file] of files) form.append(name, file, file.name)
  for (const [name, word] of Object.entries(told)) form.append(name, word)
  return form
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
