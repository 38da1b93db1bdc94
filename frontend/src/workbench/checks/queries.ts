/** What the report and the known cases are read from. */
import { useQuery } from '@tanstack/react-query'
import { api, expectData } from '../../api/client'
import { reportKey } from '../bench/queries'

export interface CasesWanted {
  order: 'table' | 'worst'
  show: 'all' | 'right' | 'wrong' | 'high' | 'low'
  truth?: string
  answered?: string
  /** Of a number: further off than this. */
  over?: number
}

export function useReport(slug: string, by: string | null) {
  return useQuery({
    queryKey: reportKey(slug, by),
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/report', { params: { path: { slug }, query: { draft: '1', ...(by && { by }) } } })),
    // The rest of the report stays while another field is looked at.
    placeholderData: (before) => before,
  })
}

export function useKnownCase(slug: string, wanted: CasesWanted, at: number) {
  return useQuery({
    queryKey: ['known', slug, wanted, at],
    queryFn: () =>
      expectData(api.GET('/api/v1/demos/{slug}/known', { params: { path: { slug }, query: { draft: '1', ...wanted, offset: at, limit: 1 } } })),
    placeholderData: (before) => before,
  })
}

/**
 * The picture of a known case.
 *
 * @throws Error
 */
export async function fetchKnownPicture(slug: string, row: number): Promise<Blob> {
  const { data, error } = await api.GET('/api/v1/demos/{slug}/known/{row}/picture', { params: { path: { slug, row } }, parseAs: 'blob' })
  if (error || !data) throw new Error('This picture cannot be shown.')
  return data
}

/** The same, where its row is given. */
export function useKnownPicture(slug: string, row: number | undefined) {
  return useQuery({
    queryKey: ['known', slug, 'picture', row],
    queryFn: () => fetchKnownPicture(slug, row ?? 0),
    enabled: row !== undefined,
    retry: false,
  })
}
