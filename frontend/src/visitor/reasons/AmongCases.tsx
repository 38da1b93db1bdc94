/** Your case among the author’s: one field across, the model's answer upwards; closer and further. */
import { useQuery } from '@tanstack/react-query'
import { memo, useState } from 'react'
import { api, expectData, type Inputs, type Page } from '../../api/client'
import { AmongChart } from './AmongChart'

export interface AmongCasesProps {
  page: Page
  isDraft: boolean
  inputs: Inputs
  /** The answer to the visitor's case, on the scale of the chart; null where it was not worked out. */
  mine: number | null
  /** Fields by what they do to this answer, the strongest first. */
  strongest: string[]
  /** The class, or the number, that the chart is about. */
  of: string
}

export const AmongCases = memo(function AmongCases({ page, isDraft, inputs, mine, strongest, of }: AmongCasesProps) {
  const [isOpen, setIsOpen] = useState(false)
  const fields = page.fields.filter((field) => field.kind !== 'text')
  const [chosen, setChosen] = useState<string | null>(null)
  const first = strongest.find((name) => fields.some((field) => field.name === name))
  const field = fields.find((one) => one.name === (chosen ?? first)) ?? fields[0]
  const among = useQuery({
    queryKey: ['among', page.slug, isDraft, page.release, field?.name, of],
    enabled: isOpen && field !== undefined,
    queryFn: () =>
      expectData(
        api.GET('/api/v1/demos/{slug}/among', {
          params: { path: { slug: page.slug }, query: { field: field?.name ?? '', of, ...(isDraft ? { draft: '1' } : {}) } },
        }),
      ),
  })
  if (!field) return null
  return (
    <details className="card-line mt-6 pt-4" open={isOpen} onToggle={(event) => setIsOpen(event.currentTarget.open)}>
      <summary className="w-fit font-bold">Your case among those of the author’s table</summary>
      <label className="mt-2 block text-[0.92em] text-soft">
        across{' '}
        <select
          className="border-b border-edge bg-paper py-0.5 text-ink"
          value={field.name}
          onChange={(event) => setChosen(event.target.value)}
        >
          {fields.map((one) => (
            <option key={one.name} value={one.name}>
              {one.label}
            </option>
          ))}
        </select>
      </label>
      {among.isError && <p className="mt-2 text-soft">{among.error.message}</p>}
      {among.data && <AmongChart key={field.name} page={page} field={field} among={among.data} inputs={inputs} mine={mine} />}
    </details>
  )
})
