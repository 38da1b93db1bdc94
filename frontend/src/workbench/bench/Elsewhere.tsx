/** That the draft was changed in another window too; where both changed the same, both are shown and the author decides. */
import type { DemoChanges, DemoState } from '../../api/client'
import type { Draft } from './useDraft'

export function Elsewhere({ draft: { demo, elsewhere } }: { draft: Draft }) {
  return (
    <div role="alert" className="empty:hidden">
      {elsewhere && (
        <div className="border-b border-caution px-6 py-2">
          <p className="flex flex-wrap items-baseline gap-x-5 text-caution">
            <span>
              <span aria-hidden="true">! </span>
              {elsewhere.conflict
                ? 'Another window changed the same setting since you last saw it. What it has now is shown here; yours is not saved yet.'
                : 'This draft is being changed in another window as well. Its changes are shown here; yours are saved too.'}
            </span>
            {elsewhere.conflict && (
              <button type="button" className="button-quiet" onClick={elsewhere.keepMine}>
                Set it as I had it
              </button>
            )}
            <button type="button" className="button-quiet" onClick={elsewhere.keepTheirs}>
              {elsewhere.conflict ? 'Keep theirs' : 'All right'}
            </button>
          </p>
          {elsewhere.conflict && <BothVersions demo={demo} mine={elsewhere.conflict} />}
        </div>
      )}
    </div>
  )
}

function BothVersions({ demo, mine }: { demo: DemoState; mine: DemoChanges }) {
  return (
    <table className="mt-1 text-left">
      <thead>
        <tr className="text-soft">
          <th className="pr-6 font-normal">Setting</th>
          <th className="pr-6 font-normal">yours</th>
          <th className="font-normal">theirs</th>
        </tr>
      </thead>
      <tbody>
        {bothVersions(demo, mine).map(([setting, own, other]) => (
          <tr key={setting} className="border-t border-line align-top">
            <th scope="row" className="pr-6 font-normal">
              {setting}
            </th>
            <td className="max-w-[30ch] pr-6 break-words">{own}</td>
            <td className="max-w-[30ch] break-words">{other}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** Each setting that is wanted here, with what it would be and what it is by now. */
export function bothVersions(demo: DemoState, mine: DemoChanges): [setting: string, mine: string, theirs: string][] {
  return Object.entries(mine).flatMap(([key, value]): [string, string, string][] => {
    if (key === 'fields') {
      return (mine.fields ?? []).flatMap((changed) => {
        const now = demo.fields.find((field) => field.name === changed.name) as Record<string, unknown> | undefined
        return within(changed as Record<string, unknown>, now ?? {}, `${changed.name}: `)
      })
    }
    if (key === 'answer') return within(value as Record<string, unknown>, demo.answer as unknown as Record<string, unknown>, 'answer: ')
    return [[key.replaceAll('_', ' '), textOf(value), textOf(demo[key as keyof DemoState])]]
  })
}

function within(mine: Record<string, unknown>, theirs: Record<string, unknown>, what: string): [string, string, string][] {
  return Object.entries(mine)
    .filter(([key]) => key !== 'name')
    .map(([key, value]) => [`${what}${key.replaceAll('_', ' ')}`, textOf(value), textOf(theirs[key])])
}

const LONGEST = 120

function textOf(value: unknown): string {
  const text = value === null || value === undefined || value === '' ? 'nothing' : typeof value === 'object' ? JSON.stringify(value) : String(value)
  return text.length > LONGEST ? `${text.slice(0, LONGEST)}…` : text
}
