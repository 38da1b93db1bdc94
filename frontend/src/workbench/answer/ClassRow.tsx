/** How one class is worded. */
import type { ClassWording } from '../../api/client'
import { InlineMark, markOf } from '../../parts/Mark'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { ToneChoice } from './ToneChoice'

export function ClassRow({ wording, index, draft }: { wording: ClassWording; index: number; draft: Draft }) {
  const save = (changes: Record<string, string>) => draft.save({ answer: { classes: [{ name: wording.name, ...changes }] } })
  return (
    <li className="card-line grid grid-cols-[7rem_1fr_1fr_1fr_1fr] items-end gap-4 py-3">
      <span className="flex items-baseline gap-2">
        <InlineMark {...markOf(index, wording)} />
        <code className="font-sans">{wording.name}</code>
      </span>
      <SavedInput label="Under the marks" value={wording.label} onSave={(label) => save({ label })} />
      <SavedInput label="The same of one" value={wording.label_one ?? ''} placeholder="guessed" onSave={(label_one) => save({ label_one })} />
      <SavedInput label="As the answer" value={wording.headline} onSave={(headline) => save({ headline })} />
      <ToneChoice tone={wording.tone ?? ''} onChange={(tone) => void save({ tone })} />
    </li>
  )
}
