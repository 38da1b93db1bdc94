/** A call asked once more of the draft: whether what failed still does, and where. */
import { useMutation } from '@tanstack/react-query'
import { api, ApiError, expectData } from '../../api/client'
import { CodeLines } from '../../parts/CodeLines'

export function AskAgain({ slug, call }: { slug: string; call: number }) {
  const again = useMutation({
    mutationFn: () => expectData(api.POST('/api/v1/demos/{slug}/log/{call}/again', { params: { path: { slug, call } } })),
  })
  const traceback = again.error instanceof ApiError ? again.error.problem.traceback : null
  return (
    <>
      <button type="button" className="button-quiet mr-3" disabled={again.isPending} onClick={() => again.mutate()}>
        Ask again
      </button>
      <span role="status">
        {again.isSuccess && <span className="mr-3 text-calm">✓ the draft answers it</span>}
        {again.error && <span className="mr-3 text-caution">! {again.error.message}</span>}
      </span>
      {traceback && (
        <details className="inline-block">
          <summary className="button-quiet">Where it failed</summary>
          <CodeLines text={traceback} />
        </details>
      )}
    </>
  )
}
