/** What a demo was made of: each part can be given, replaced or taken away later; visitors keep the version they see. */
import { useRef, useState } from 'react'
import type { DemoState } from '../../api/client'
import { Problem } from '../bench/Problem'
import { useReplace } from '../bench/queries'
import type { Draft } from '../bench/useDraft'

interface Part {
  name: 'model' | 'reference' | 'known' | 'labels' | 'preprocessor'
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
  { name: 'known', label: 'Known cases', accept: `${TABLES},.zip`, has: (demo) => demo.has_known_cases, canGo: true, help: 'Rows you kept back, with their outcome; for pictures a zip of folders named after classes.' },
  { name: 'labels', label: 'Class names', accept: '.txt,.csv,text/plain', has: (demo) => demo.has_labels, canGo: true, help: 'One a line, in the model’s order; or a CSV with the model’s classes in one column.' },
]

export function PartsSheet({ draft }: { draft: Draft }) {
  const replace = useReplace(draft.demo.slug, draft.onChanged)
  const [doing, setDoing] = useState('')
  const send = (part: Part, content: File | Blob | string, what: string) => {
    const form = new FormData()
    if (typeof content === 'string') form.append(part.name, content)
    else form.append(part.name, content, 'name' in content ? content.name : 'empty')
    setDoing(what)
    replace.mutate(form, { onSettled: () => setDoing('') })
  }
  const done = replace.data
  return (
    <section className="mt-6" aria-labelledby="parts-heading" data-testid="parts">
      <h3 id="parts-heading" className="font-bold">
        What it is made of
      </h3>
      <ul className="mt-1">
        {PARTS.map((part) => (
          <PartRow
            key={part.name}
            part={part}
            isThere={part.has(draft.demo)}
            isBusy={replace.isPending}
            onGive={(file) => send(part, file, `Opening ${file.name}…`)}
            onTakeAway={() => send(part, part.name === 'labels' ? '' : new Blob([]), `Taking away ${part.label.toLowerCase()}…`)}
          />
        ))}
      </ul>
      <p role="status" className="mt-2 text-soft">
        {doing || (done && !replace.isError ? differenceWords(done.differences) : '')}
      </p>
      <Problem error={replace.error} />
    </section>
  )
}

interface PartRowProps {
  part: Part
  isThere: boolean
  isBusy: boolean
  onGive: (file: File) => void
  onTakeAway: () => void
}

function PartRow({ part, isThere, isBusy, onGive, onTakeAway }: PartRowProps) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <li className="card-line grid grid-cols-[10rem_1fr_auto] items-baseline gap-4 py-2">
      <span className="text-soft">{part.label}</span>
      <span>
        {isThere ? 'there' : 'none'} <span className="text-[0.93em] text-soft">{part.help}</span>
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

/** What another model or table changed, in a sentence. */
export function differenceWords({ features, classes, answers }: NonNullable<ReturnType<typeof useReplace>['data']>['differences']): string {
  const words: string[] = []
  const names = (list: string[]) => `${list.slice(0, 6).join(', ')}${list.length > 6 ? ' …' : ''}`
  if (features?.added?.length) words.push(`New fields: ${names(features.added)}.`)
  if (features?.gone?.length) words.push(`Gone: ${names(features.gone)}.`)
  for (const [before, after] of features?.renamed ?? []) words.push(`${before} may be ${after} now.`)
  if (features?.changed?.length) words.push(`Changed: ${names(features.changed)}.`)
  if (classes?.added?.length || classes?.gone?.length) words.push(`Classes: ${names(classes.added ?? [])} for ${names(classes.gone ?? [])}.`)
  if (classes?.order_changed) words.push('The classes stand in another order.')
  if (answers?.cases) {
    const known = answers.better || answers.worse ? `, ${answers.better} better and ${answers.worse} worse` : ''
    words.push(`Of ${answers.cases} cases ${answers.same} are answered as before${known}.`)
  }
  return words.join(' ') || 'Taken over.'
}
