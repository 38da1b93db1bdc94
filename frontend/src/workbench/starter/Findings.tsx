/** What lies in wait in a table, each with what shows it, what is done about it, and the other way. */
import type { StarterChanges, StarterFinding, StarterLook } from '../../api/client'
import { plainText } from '../../parts/table/tableWords'
import { groupOf, isDropped, timeOf } from './starterWords'

const TITLES: Record<StarterFinding['kind'], string> = {
  'gives-away': 'Gives the outcome away',
  'known-afterwards': 'Only known afterwards',
  'adds-up': 'Adds up to the outcome',
  strong: 'Far stronger than the rest',
  identifier: 'Only names the row',
  rare: 'Each value too rare to learn of',
  group: 'Several rows of one thing',
  time: 'Changes with time',
  duplicates: 'Rows met twice',
  'stand-in': 'Stands for a missing value',
  unit: 'Says its unit in each cell',
  spellings: 'Spelled in several ways',
  odd: 'Values that do not fit',
  constant: 'Always the same',
}

interface FindingsProps {
  look: StarterLook
  onShow: (columns: readonly string[]) => void
  onChange: (changes: StarterChanges) => void
}

export function Findings({ look, onShow, onChange }: FindingsProps) {
  const { findings } = look.sheet
  return (
    <section aria-labelledby="findings-heading" data-testid="findings">
      <h2 id="findings-heading" className="font-bold">
        {findings.length === 0 ? 'Nothing was found that lies in wait' : 'What to know about this table'}
      </h2>
      <ul>
        {findings.map((finding, index) => (
          <li key={`${finding.kind} ${finding.columns.join(' ')}`} className="card-line mt-2 pt-2 first:border-t-0">
            <h3 className="text-[0.93em] text-soft">{TITLES[finding.kind]}</h3>
            <p>{plainText(finding.sentence)}</p>
            <p className="flex flex-wrap gap-x-4">
              <span>→ {look.done[index]}</span>
              {finding.columns.length > 0 && (
                <button type="button" className="button-quiet" onClick={() => onShow(finding.columns)}>
                  Show
                </button>
              )}
              <OtherWay finding={finding} look={look} onChange={onChange} />
            </p>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What can be done instead. */
function OtherWay({ finding, look, onChange }: { finding: StarterFinding; look: StarterLook; onChange: (changes: StarterChanges) => void }) {
  const way = otherWay(finding, look)
  if (!way) return null
  return (
    <button type="button" className="button-quiet" onClick={() => onChange(way.changes)}>
      {way.words}
    </button>
  )
}

function otherWay({ kind, columns, leaves_out: leavesOut }: StarterFinding, look: StarterLook): { words: string; changes: StarterChanges } | null {
  const [name = ''] = columns
  if (kind === 'group') return groupOf(look) === name ? { words: 'Part rows without regard to it', changes: { group: '' } } : { words: 'Keep its rows together', changes: { group: name } }
  if (kind === 'time') return timeOf(look) === name ? { words: 'Part rows by chance', changes: { time: '' } } : { words: 'Try later rows', changes: { time: name } }
  if (kind === 'duplicates') return isDropped(look) ? { words: 'Keep all', changes: { duplicates: 'keep' } } : { words: 'Count each once', changes: { duplicates: 'drop' } }
  if (kind === 'constant' || !(leavesOut || kind === 'strong')) return null
  const { drop = [], keep = [] } = look.choices
  const isUsed = columns.some((one) => look.used.includes(one))
  const without = (list: readonly string[]) => list.filter((one) => !columns.includes(one))
  return isUsed ? { words: 'Leave it out', changes: { drop: [...without(drop), ...columns], keep: without(keep) } } : { words: 'Use it all the same', changes: { drop: without(drop), keep: [...without(keep), ...columns] } }
}
