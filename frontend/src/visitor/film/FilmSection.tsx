/** A film, or what the camera sees, frame by frame, where the author lets visitors have one answered. */
import { useEffect, useState, useSyncExternalStore } from 'react'
import type { Inputs, Page } from '../../api/client'
import { Faults } from '../../parts/Faults'
import { ChooseFilm } from './ChooseFilm'
import { FilmRun } from './filmRun'
import { FilmView } from './FilmView'
import { LiveCamera } from './LiveCamera'
import { useFilmDrop } from './useFilmDrop'

export interface FilmSectionProps {
  page: Page
  isDraft: boolean
  /** What the page's form holds now: fields beside the picture are the same for all frames. */
  values: Inputs
}

export default function FilmSection({ page, isDraft, values }: FilmSectionProps) {
  const [run] = useState(() => new FilmRun(page.slug, isDraft))
  const state = useSyncExternalStore(run.subscribe, run.read)
  const [isLive, setIsLive] = useState(false)
  // The server goes on until it is told that nobody waits.
  useEffect(() => {
    window.addEventListener('pagehide', run.drop)
    return () => {
      window.removeEventListener('pagehide', run.drop)
      run.drop()
    }
  }, [run])
  const inputs = beside(page, values)
  useFilmDrop((file) => (setIsLive(false), void run.send(file, inputs), document.getElementById('film')?.scrollIntoView({ block: 'start' })))
  const isFree = state.file === null && !isLive
  return (
    <section id="film" data-setting="films" tabIndex={-1} aria-labelledby="film-heading" className="card-line mt-10 pt-5 print:hidden">
      <h2 id="film-heading" className="font-bold">
        A film, or what your camera sees
      </h2>
      {isFree && <ChooseFilm onFile={(file) => void run.send(file, inputs)} onCamera={() => setIsLive(true)} ready={page.sample_films ?? []} onReady={(at) => void run.sendReady(at, page.sample_films?.[at] ?? 'film', inputs)} rate={page.film_rate ?? 5} />}
      <p role="status" className="mt-2 text-soft empty:hidden">
        {state.sent === null ? '' : state.sent < 1 ? `Sending: ${Math.round(state.sent * 100)} of 100.` : 'Looking at the film…'}
      </p>
      <Faults error={state.error} />
      {state.file && <FilmView page={page} state={state} onDrop={run.drop} />}
      {isLive && <LiveCamera page={page} isDraft={isDraft} inputs={inputs} onLeave={() => setIsLive(false)} />}
      <p className="mt-2 text-soft">{isLive ? 'Pictures of the camera are asked about and not kept.' : 'When you leave this page your film and its answers are deleted, ten minutes later at the latest.'}</p>
    </section>
  )
}

function beside(page: Page, values: Inputs): Inputs {
  const others = page.fields.filter((field) => field.kind !== 'picture').map((field) => field.name)
  return Object.fromEntries(others.filter((name) => name in values).map((name) => [name, values[name] ?? null]))
}
