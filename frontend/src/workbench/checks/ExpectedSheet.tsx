/** What the author's notebook says of some cases: brought as a table, and the first difference opened on the page. */
import { useContext, useState } from 'react'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { ApiError, sendExpected, api, expectData, type CheckResult, type DemoState, type Inputs } from '../../api/client'
import { Problem } from '../bench/Problem'
import { checksKey, demoKey } from '../bench/queries'
import { ShowCase } from '../inputs/shownCase'
import { FilesInput } from '../shelf/FilesInput'

const TABLES = '.csv,.tsv,.txt,.xlsx,.parquet,.jsonl,.json,text/csv'

interface FirstDifference {
  row: number
  column: string
  inputs: Inputs
}

export function ExpectedSheet({ demo, check }: { demo: DemoState; check: CheckResult | undefined }) {
  const queries = useQueryClient()
  const [pasted, setPasted] = useState('')
  const again = async () => {
    await queries.invalidateQueries({ queryKey: demoKey(demo.slug) })
    await queries.invalidateQueries({ queryKey: checksKey(demo.slug) })
  }
  const bring = useMutation({ mutationFn: (table: Blob) => sendExpected(demo.slug, table), onSuccess: again })
  const takeAway = useMutation({ mutationFn: () => expectData(api.DELETE('/api/v1/demos/{slug}/expected', { params: { path: { slug: demo.slug } } })), onSuccess: again })
  const show = useContext(ShowCase)
  const first = check?.evidence?.['first_difference'] as FirstDifference | undefined
  const faults = bring.error instanceof ApiError ? (bring.error.problem.errors ?? []).slice(1) : []
  return (
    <details className="mt-4" data-testid="expected">
      <summary className="font-bold">Compare with your notebook</summary>
      <p className="mt-1 max-w-[65ch] text-soft">
        A table of some cases: the inputs as the model was given them, and what it said: a column <code>prediction</code>, or one a class with its probability. Any order, as few rows as you like.
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
        <FilesInput label={demo.has_expected ? 'Another table' : 'The table'} accept={TABLES} onFiles={([file]) => file && bring.mutate(file)} />
        {demo.has_expected && (
          <button type="button" className="button-quiet" disabled={takeAway.isPending} onClick={() => takeAway.mutate()}>
            Take it away
          </button>
        )}
      </div>
      <label className="mt-2 block">
        <span className="block text-soft">Or paste it here, with its header</span>
        <textarea className="block w-full border border-edge bg-paper px-2 py-1" rows={3} value={pasted} onChange={(event) => setPasted(event.target.value)} />
      </label>
      <p className="mt-1 flex flex-wrap items-baseline gap-x-5">
        <button type="button" className="button-plain" disabled={!pasted.trim() || bring.isPending} onClick={() => bring.mutate(new Blob([pasted]))}>
          Compare
        </button>
        <span role="status" className="text-soft">
          {bring.isPending ? 'Reading the table…' : bring.data && !bring.isError ? broughtWords(bring.data) : ''}
        </span>
      </p>
      <Problem error={bring.error ?? takeAway.error} />
      {faults.map((fault) => (
        <p key={`${fault.field}`} className="text-alert">
          {fault.message}
        </p>
      ))}
      {first && (
        <button type="button" className="button-quiet mt-2" onClick={() => show(first.inputs)}>
          Show row {first.row + 1} on the page
        </button>
      )}
    </details>
  )
}

function broughtWords({ compared, total, columns, not_asked }: { compared: number; total: number; columns: string[]; not_asked: number }): string {
  const rows = compared === total ? `${total} ${total === 1 ? 'row' : 'rows'}` : `${compared} of ${total} rows`
  return `Brought: ${rows}, by ${columns.join(', ')}.${not_asked > 0 ? ` ${not_asked} cannot be asked.` : ''}`
}
