/** Which published version answers visitors while the author's own process is away. */
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, expectData, type DemoState } from '../../api/client'
import { demoKey } from '../bench/queries'
import { Problem } from '../bench/Problem'
import { useReleases } from '../share/queries'

export function WhileAway({ demo }: { demo: DemoState }) {
  const queries = useQueryClient()
  const releases = useReleases(demo.slug, demo.release?.number ?? 0)
  const choose = useMutation({
    mutationFn: (number: number | null) => expectData(api.PUT('/api/v1/demos/{slug}/release-while-away', { params: { path: { slug: demo.slug } }, body: { number } })),
    onSuccess: (changed) => queries.setQueryData(demoKey(demo.slug), changed),
  })
  const possible = releases.data?.releases.filter((one) => !one.is_bridged) ?? []
  if (possible.length === 0) return <>visitors get no answers. Once you have published a version whose model is a file, it can answer meanwhile.</>
  return (
    <>
      <select
        className="min-h-10 border border-edge bg-paper px-2"
        aria-label="While its process is away"
        value={demo.release_while_away ?? ''}
        disabled={choose.isPending}
        onChange={(event) => choose.mutate(event.target.value === '' ? null : Number(event.target.value))}
      >
        <option value="">visitors get no answers</option>
        {possible.map((one) => (
          <option key={one.number} value={one.number}>
            version {one.number} answers
          </option>
        ))}
      </select>
      {demo.release_while_away !== null && <p className="mt-1 text-[0.88em] text-soft">The page says so, and since when.</p>}
      <Problem error={choose.error ?? releases.error} />
    </>
  )
}
