/** What the author may say better than what was concluded: the kind of answer, the outcome, what known cases are of. */
import { Problem } from '../bench/Problem'
import { useReplace } from '../bench/queries'
import type { Draft } from '../bench/useDraft'

const KIND_WORDS = { class: 'one of several classes', labels: 'several labels, each by itself', number: 'a number', numbers: 'several numbers', boxes: 'boxes in a picture', picture: 'a picture', mask: 'a class for each pixel', text: 'a text', table: 'a table' } as const

/** The kind of answer; where the outputs may be read in another way, the author can say so. */
export function AnswerKind({ draft }: { draft: Draft }) {
  const { found, slug } = draft.demo
  const replace = useReplace(slug, draft.onChanged)
  const isWritten = found.task === 'text' || found.task === 'table'
  const isMap = found.task === 'picture' || found.task === 'mask'
  const others = isMap ? (['picture', 'mask'] as const) : found.task === 'number' || found.task === 'boxes' || isWritten ? [] : (['class', 'labels', 'numbers'] as const).filter((kind) => kind !== 'numbers' || found.library === 'ONNX' || found.format === 'python')
  const without = found.task === 'class' && !found.gives_probabilities ? ', without probabilities' : ''
  if (!others.some((kind) => kind !== found.task)) return <>{KIND_WORDS[found.task] + without}</>
  return (
    <>
      <select
        aria-label="Answers with"
        className="border-b border-edge bg-paper py-0.5"
        value={found.task}
        disabled={replace.isPending}
        onChange={(event) => replace.mutate(formOf({ answer: event.target.value }))}
      >
        {others.map((kind) => (
          <option key={kind} value={kind}>
            {KIND_WORDS[kind]}
          </option>
        ))}
      </select>
      {without}
      <Problem error={replace.error} />
    </>
  )
}

/** The outcome's column, or which it could be. */
export function Outcome({ draft }: { draft: Draft }) {
  const { demo } = draft
  const replace = useReplace(demo.slug, draft.onChanged)
  const known = demo.targets.length > 0 ? demo.targets : demo.target ? [demo.target] : []
  const choices = [...new Set([...known, ...demo.candidates, ...demo.ignored])]
  if (demo.targets.length > 1) return <>in {demo.targets.join(', ')}, in the order of the answers</>
  if (choices.length === 0) return <>none: similar cases cannot say what happened to them</>
  return (
    <>
      <select
        aria-label="Outcome’s column"
        className="border-b border-edge bg-paper py-0.5"
        value={demo.target ?? ''}
        disabled={replace.isPending}
        onChange={(event) => replace.mutate(formOf({ target: event.target.value }))}
      >
        <option value="">{demo.target ? 'let it be found' : 'not said'}</option>
        {choices.map((name) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
      </select>
      {!demo.target && demo.candidates.length > 1 && <p className="mt-1 text-caution">! Which of these columns is what happened? {demo.candidates.join(', ')}</p>}
      <Problem error={replace.error} />
    </>
  )
}

/** What known cases are of, where several are of one thing: measured again when it changes. */
export function KnownGroup({ draft }: { draft: Draft }) {
  const { demo } = draft
  const replace = useReplace(demo.slug, draft.onChanged)
  const group = demo.known_group ?? ''
  return (
    <>
      <select
        aria-label="What each known case is a case of"
        className="border-b border-edge bg-paper py-0.5"
        value={group}
        disabled={replace.isPending}
        onChange={(event) => replace.mutate(formOf({ known_group: event.target.value }))}
      >
        <option value="">itself alone</option>
        {[...new Set([...(group ? [group] : []), ...(demo.known_groups ?? [])])].map((name) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
      </select>{' '}
      <span className="text-[0.93em] text-soft">
        {replace.isPending ? 'Measuring again…' : 'Cases of one batch, one person, one day go wrong together, and count as one for how sure all that is measured is.'}
      </span>
      <Problem error={replace.error} />
    </>
  )
}

function formOf(parts: Record<string, string>): FormData {
  const form = new FormData()
  for (const [name, value] of Object.entries(parts)) form.append(name, value)
  return form
}
