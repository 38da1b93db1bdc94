/** What there is to take: the answers as a table, and the film with its boxes as they are shown now. */
import { useState } from 'react'
import { ApiError, toApiError, type JobView } from '../../api/client'
import { handOver } from '../../parts/handOver'
import type { BoxesView } from '../pictures/boxesView'

export interface SaveFilmProps {
  job: JobView
  view: BoxesView | null
  name: string
}

const ENDINGS = { csv: 'answers.csv', film: 'boxes.mp4' } as const

export function SaveFilm({ job, view, name }: SaveFilmProps) {
  const [said, setSaid] = useState('')
  const save = async (format: 'csv' | 'film') => {
    setSaid(format === 'film' ? 'The film is being made…' : 'The table is being made…')
    try {
      const query = new URLSearchParams({ format })
      if (view) {
        query.set('least_score', String(view.leastScore))
        if (view.off.size) for (const { name: kind } of view.setting.labels) if (!view.off.has(kind)) query.append('only', kind)
      }
      const response = await fetch(`/api/v1/jobs/${job.id}/result?${query}`)
      if (!response.ok) throw toApiError(await response.json().catch(() => null), response.status, response.headers.get('Retry-After'))
      const file = `${name.replace(/\.[^.]*$/, '')} with ${ENDINGS[format]}`
      handOver(await response.blob(), file)
      setSaid(`${file} is saved.`)
    } catch (error) {
      setSaid(error instanceof ApiError ? error.message : 'It could not be saved. Try again.')
    }
  }
  return (
    <div className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-1">
      {view && job.result?.formats?.includes('film') && (
        <button type="button" className="button-quiet" onClick={() => void save('film')}>
          Save the film with its boxes
        </button>
      )}
      <button type="button" className="button-quiet" onClick={() => void save('csv')}>
        Save the answers as a table
      </button>
      <p role="status" className="basis-full text-soft empty:hidden">
        {said}
      </p>
    </div>
  )
}
