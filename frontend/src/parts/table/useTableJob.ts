/** One table on its way: sent, looked at, begun, followed until it is over. It can be left and come back to. */
import { useState } from 'react'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, expectData, sendTable, type ApiError, type JobView, type TableChanges } from '../../api/client'

const FOLLOW_MS = 700
const ENDED = new Set(['done', 'failed', 'cancelled'])

export interface TableJob {
  job: JobView | null
  /** From 0 to 1 while it is being sent; null otherwise. */
  sent: number | null
  error: ApiError | Error | null
  isBusy: boolean
  send: (table: File) => void
  change: (changes: TableChanges) => void
  begin: () => void
  /** Cancels it if it goes on; forgets it, and what came of it. */
  drop: () => void
}

export function useTableJob(slug: string, isDraft: boolean): TableJob {
  const queries = useQueryClient()
  const [id, setId] = useRemembered(`plain-window-table:${isDraft ? 'draft:' : ''}${slug}`)
  const [sent, setSent] = useState<number | null>(null)
  const key = ['job', id]
  const followed = useQuery({
    queryKey: key,
    queryFn: () => expectData(api.GET('/api/v1/jobs/{job_id}', { params: { path: { job_id: id ?? '' } } })),
    enabled: id !== null,
    refetchInterval: ({ state }) => (state.data && (ENDED.has(state.data.state) || state.data.held) ? false : FOLLOW_MS),
    retry: false,
  })
  const keep = (job: JobView) => queries.setQueryData(['job', job.id], job)
  const send = useMutation({
    mutationFn: async (table: File) => {
      if (id) await forget(id)
      setSent(0)
      return sendTable(slug, table, isDraft, ({ sent: share }) => setSent(share))
    },
    onSuccess: (job) => (keep(job), setId(job.id)),
    onSettled: () => setSent(null),
  })
  const change = useMutation({
    mutationFn: (body: TableChanges) => expectData(api.PATCH('/api/v1/jobs/{job_id}', { params: { path: { job_id: id ?? '' } }, body })),
    onSuccess: keep,
  })
  const begin = useMutation({
    mutationFn: () => expectData(api.POST('/api/v1/jobs/{job_id}/start', { params: { path: { job_id: id ?? '' } } })),
    onSuccess: async (job) => (keep(job), await queries.invalidateQueries({ queryKey: key })),
  })
  const drop = useMutation({
    mutationFn: async () => {
      if (id) await forget(id)
    },
    onSettled: () => setId(null),
  })
  const gone = followed.isError
  return {
    job: id && !gone ? (followed.data ?? null) : null,
    sent,
    error: send.error ?? change.error ?? begin.error,
    isBusy: send.isPending || change.isPending || begin.isPending,
    send: (table) => (change.reset(), begin.reset(), send.mutate(table)),
    change: change.mutate,
    begin: begin.mutate,
    drop: () => (send.reset(), change.reset(), begin.reset(), drop.mutate()),
  }
}

/** Twice: once to cancel it, should it go on, and once to forget it. Whatever is gone already is gone. */
async function forget(id: string): Promise<void> {
  const path = { params: { path: { job_id: id } } }
  const first = await api.DELETE('/api/v1/jobs/{job_id}', path)
  if (first.response.ok) await api.DELETE('/api/v1/jobs/{job_id}', path)
}

/** A value that this browser has again after a reload. */
function useRemembered(key: string): [string | null, (value: string | null) => void] {
  const [value, setValue] = useState(() => stored(key))
  const remember = (next: string | null) => {
    setValue(next)
    try {
      if (next === null) localStorage.removeItem(key)
      else localStorage.setItem(key, next)
    } catch {
      // Switched off: the page works without.
    }
  }
  return [value, remember]
}

function stored(key: string): string | null {
  try {
    return localStorage.getItem(key)
  } catch {
    return null
  }
}
