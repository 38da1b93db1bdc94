/** How the draft's model was made of a table: what was found in it, how models compared, the script, and the way to fit it
 * again when there are more rows. */
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useLocation } from 'wouter'
import { api, ApiError, expectData, type DemoState, type StarterOrigin } from '../../api/client'
import { groupedText, listText } from '../../domain/format'
import { plainText } from '../../parts/table/tableWords'
import { Problem } from '../bench/Problem'
import { FilesInput } from '../shelf/FilesInput'
import { KeptError } from '../starter/KeptError'
import { sendStarter } from '../starter/queries'
import { takenWords, type Differences } from './differenceWords'

export function MadeOfTable({ demo }: { demo: DemoState }) {
  const origin = useQuery({
    queryKey: ['origin', demo.slug, demo.found, demo.n_reference_rows],
    queryFn: () =>
      expectData(api.GET('/api/v1/demos/{slug}/starter', { params: { path: { slug: demo.slug } } })).catch((error: unknown) => {
        // A model that was brought is of no table.
        if (error instanceof ApiError && error.problem.status === 409) return null
        throw error
      }),
  })
  if (!origin.data) return null
  const { compared, sentences, differences, file_name: fileName } = origin.data
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="of-table-heading" data-testid="made-of-table">
      <h3 id="of-table-heading" className="font-bold">
        Made of a table
      </h3>
      <p className="mt-1">
        {fileName}: {groupedText(origin.data.n_rows)} rows, of which {groupedText(origin.data.n_learned)} were learned from and {groupedText(origin.data.n_kept_back)} kept back. {partedText(origin.data)}
      </p>
      {compared && <p className="mt-2">{compared.verdict}</p>}
      <KeptError found={origin.data.kept_error} />
      {differences && <p className="mt-2">Fitted again by the same recipe. {takenWords(differences as Differences)}</p>}
      {compared && (
        <details className="mt-2">
          <summary className="button-quiet w-fit">All models that were tried</summary>
          <ul className="mt-1">
            {compared.tried.map((one) => (
              <li key={one.candidate}>
                {one.name}: {one.text}
                {one.candidate === origin.data?.candidate && ' – this one'}
              </li>
            ))}
          </ul>
        </details>
      )}
      {sentences.length > 0 && (
        <details className="mt-2">
          <summary className="button-quiet w-fit">What was found in the table</summary>
          <ul className="mt-1 list-disc pl-5">
            {sentences.map((sentence) => (
              <li key={sentence}>{plainText(sentence)}</li>
            ))}
          </ul>
        </details>
      )}
      <p className="mt-2">
        <a className="button-quiet" href={`/api/v1/demos/${demo.slug}/starter/script`} download>
          Take the training script along
        </a>{' '}
        <span className="text-soft">With the versions that it names it makes the same model of the same table, bit for bit.</span>
      </p>
      <FitAgain slug={demo.slug} />
    </section>
  )
}

function partedText({ group, time, columns }: Pick<StarterOrigin, 'group' | 'time' | 'columns'>): string {
  const told = `The model is told ${listText(columns.map((name) => `“${name}”`))}.`
  if (time) return `${told} The latest by “${time}” are those that were kept back.`
  return group ? `${told} Rows of one “${group}” stayed together.` : told
}

/** Next month's table: the same recipe, the same model with what came since. */
function FitAgain({ slug }: { slug: string }) {
  const [, navigate] = useLocation()
  const [state, setState] = useState<{ isSending: boolean; error: unknown }>({ isSending: false, error: null })
  const send = async (table: File) => {
    setState({ isSending: true, error: null })
    try {
      const job = await sendStarter(table, () => undefined, new AbortController().signal, slug)
      navigate(`/start/${job.id}`)
    } catch (error) {
      setState({ isSending: false, error })
    }
  }
  return (
    <div className="mt-3">
      <FilesInput label="Fit it again: the same table with more rows. It goes into the draft; visitors keep the release they have" accept=".csv,.tsv,.txt,.xlsx,.parquet,text/csv" onFiles={([file]) => file && void send(file)} />
      <p role="status" className="text-soft">
        {state.isSending && 'Looking at the table…'}
      </p>
      <Problem error={state.error} />
    </div>
  )
}
