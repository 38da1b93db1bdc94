/** Runs the checks of a draft, and takes each result as it comes. */
import { experimental_streamedQuery as streamedQuery, useQuery } from '@tanstack/react-query'
import { runChecks } from '../../api/client'
import { checksKey } from '../bench/queries'

/** Made when the place is opened, and again after each change of the draft: nothing is changed by them. */
export function useChecks(slug: string) {
  return useQuery({
    queryKey: checksKey(slug),
    queryFn: streamedQuery({ streamFn: ({ signal }) => runChecks(slug, signal) }),
    staleTime: Number.POSITIVE_INFINITY,
  })
}
