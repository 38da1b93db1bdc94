/** Releases, read and made live again; how the demo is used. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, expectData, type DemoState } from '../../api/client'
import { demoKey } from '../bench/queries'

const releasesKey = (slug: string) => ['releases', slug]

/** `live` is which one the draft says is live: after publishing there is another. */
export function useReleases(slug: string, live: number) {
  return useQuery({
    queryKey: [...releasesKey(slug), live],
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/releases', { params: { path: { slug } } })),
    placeholderData: (before) => before,
  })
}

export function useMakeLive(slug: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (number: number) => expectData(api.PUT('/api/v1/demos/{slug}/release', { params: { path: { slug } }, body: { number } })),
    onSuccess: (demo) => {
      queries.setQueryData(demoKey(slug), demo)
      return queries.invalidateQueries({ queryKey: releasesKey(slug) })
    },
  })
}

export function useDifferences(slug: string, from: number, to: string) {
  return useQuery({
    queryKey: [...releasesKey(slug), 'differences', from, to],
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/differences', { params: { path: { slug }, query: { from: String(from), to } } })),
    // The draft may have been changed meanwhile.
    staleTime: 0,
  })
}

export function useForgetInputs(slug: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () => expectData(api.DELETE('/api/v1/demos/{slug}/log/inputs', { params: { path: { slug } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['log', slug] }),
  })
}

export function useUse(slug: string, isWanted: boolean) {
  return useQuery({
    queryKey: ['use', slug],
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/use', { params: { path: { slug } } })),
    enabled: isWanted,
  })
}

/** What the demo would be as a file; `hasRows` null for as the page itself hands rows out. */
export function useTakeAwayPlan(slug: string, release: number | null, hasRows: boolean | null, isWanted: boolean) {
  return useQuery({
    queryKey: ['take-away', slug, release, hasRows],
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/take-away/plan', { params: { path: { slug }, query: rowsQuery(hasRows) } })),
    enabled: isWanted,
    placeholderData: (before) => before,
    // The draft, and what visitors may see of it, may have been changed meanwhile.
    staleTime: 0,
  })
}

/** What the draft's page would send to browsers, if it has them answer. */
export function useBrowserPlan(demo: DemoState) {
  return useQuery({
    queryKey: ['browser-plan', demo.slug, demo],
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/take-away/plan', { params: { path: { slug: demo.slug }, query: { draft: '1', for: 'page' } } })),
    placeholderData: (before) => before,
  })
}

/** Has the file made. */
export function useTakeAway(slug: string) {
  return useMutation({
    mutationFn: (hasRows: boolean) => expectData<Blob>(api.GET('/api/v1/demos/{slug}/take-away', { params: { path: { slug }, query: rowsQuery(hasRows) }, parseAs: 'blob' }) as Promise<{ data?: Blob; error?: unknown; response: Response }>),
  })
}

export function rowsQuery(hasRows: boolean | null): { rows?: string } {
  return hasRows === null ? {} : { rows: hasRows ? '1' : '0' }
}
