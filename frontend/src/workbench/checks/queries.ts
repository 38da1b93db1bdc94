/** What the report and the known cases are read from. */
import { useQuery } from '@tanstack/react-query'
import { api, expectData } from '../../api/client'
import { reportKey } from '../bench/queries'

export interface CasesWanted {
  order: 'table' | 'worst'
  show: 'all' | 'right' | 'wrong'
  truth?: string
  answered?: string
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
