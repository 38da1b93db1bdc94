/** What a page that makes a model of a table reads and changes, as hooks. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, expectData, sendForm, type JobView, type StarterChanges, type UploadProgress } from '../../api/client'
import { foreseen } from './starterWords'

const FOLLOW_MS = 500
const ENDED = new Set(['done', 'failed', 'cancelled'])
const starterKey = (id: string) => ['starter', id]

/**
 * Send a table, to be looked at; it waits for a word to go on.
 *
 * @throws ApiError
 */
export function sendStarter(table: File, onProgress: (progress: UploadProgress) => void, signal: AbortSignal, again?: string): Promise<JobView> {
  const form = new FormData()
  // Next month's table is fitted at once: by which recipe is settled.
  if (again) form.append('again', again)
  else form.append('hold', 'true')
  form.append('table', table, table.name)
  return sendForm('POST', '/api/v1/starters', form, onProgress, signal)
}

/** The table that comes along to try it with, as a file. */
export async function sampleTable(): Promise<File> {
  const content = await expectData(api.GET('/api/v1/starters/sample', { parseAs: 'blob' }))
  return new File([content as unknown as Blob], SAMPLE_NAME, { type: 'text/csv' })
}

export const SAMPLE_NAME = 'firing_log.csv'

/** One job, followed while something goes on with it. */
export function useStarter(id: string) {
  const queries = useQueryClient()
  return useQuery({
    queryKey: starterKey(id),
    queryFn: () => expectData(api.GET('/api/v1/jobs/{job_id}', { params: { path: { job_id: id } } })),
    // A change that is under way says how it is itself.
    refetchInterval: ({ state: { data } }) => ((data && (data.held || ENDED.has(data.state))) || queries.isMutating({ mutationKey: starterKey(id) }) > 0 ? false : FOLLOW_MS),
  })
}

/** Want something else of its table; what was shown stays until that is known. */
export function useStarterChange(id: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationKey: starterKey(id),
    mutationFn: (changes: StarterChanges) => expectData(api.PATCH('/api/v1/starters/{job_id}', { params: { path: { job_id: id } }, body: changes })),
    // Shown at once; what the server makes of it follows.
    onMutate: async (changes) => {
      // What is on its way knows nothing of it, and would put it back.
      await queries.cancelQueries({ queryKey: starterKey(id) })
      const before = queries.getQueryData<JobView>(starterKey(id))
      if (before?.starter) queries.setQueryData(starterKey(id), { ...before, starter: foreseen(before.starter, changes) })
      return { before }
    },
    onError: (_error, _changes, context) => context?.before && queries.setQueryData(starterKey(id), context.before),
    // Of several that are under way the last says how it is.
    onSuccess: (job) => queries.isMutating({ mutationKey: starterKey(id) }) === 1 && queries.setQueryData(starterKey(id), job),
  })
}

/** Go on: compare models, or make the one that is wanted. */
export function useGoOn(id: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: async (changes: StarterChanges | undefined) => {
      if (changes) await expectData(api.PATCH('/api/v1/starters/{job_id}', { params: { path: { job_id: id } }, body: changes }))
      return expectData(api.POST('/api/v1/jobs/{job_id}/start', { params: { path: { job_id: id } } }))
    },
    onSuccess: (job) => queries.setQueryData(starterKey(id), job),
  })
}

export function useCancel(id: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () => expectData(api.DELETE('/api/v1/jobs/{job_id}', { params: { path: { job_id: id } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: starterKey(id) }),
  })
}
