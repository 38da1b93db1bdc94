/** Secret links and the sites that may frame the page: read and changed. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, expectData } from '../../api/client'
import { demoKey } from '../bench/queries'

const linksKey = (slug: string) => ['links', slug]

export function useLinks(slug: string) {
  return useQuery({
    queryKey: linksKey(slug),
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/links', { params: { path: { slug } } })),
    // Others open them meanwhile.
    staleTime: 0,
  })
}

function useLinkChange<Input>(slug: string, change: (input: Input) => Promise<unknown>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: change,
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: linksKey(slug) })
      // Which link the demo names as its own may have changed.
      await queries.invalidateQueries({ queryKey: demoKey(slug) })
    },
  })
}

export function useMakeLink(slug: string) {
  return useLinkChange(slug, (link: { name: string; expires: string | null }) =>
    expectData(api.POST('/api/v1/demos/{slug}/links', { params: { path: { slug } }, body: link })),
  )
}

export function useRevokeLink(slug: string) {
  return useLinkChange(slug, (link: number) => expectData(api.DELETE('/api/v1/demos/{slug}/links/{link}', { params: { path: { slug, link } } })))
}

export function useDrift(slug: string, isWanted: boolean) {
  return useQuery({
    queryKey: ['drift', slug],
    queryFn: () => expectData(api.GET('/api/v1/demos/{slug}/drift', { params: { path: { slug } } })),
    enabled: isWanted,
    staleTime: 0,
  })
}
