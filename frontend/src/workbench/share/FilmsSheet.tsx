/** Films: whether visitors may have one answered frame by frame, and how many frames of a second are asked about. */
import type { DemoState } from '../../api/client'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'

const ANSWERS = new Set(['class', 'labels', 'number', 'numbers', 'boxes'])

export function FilmsSheet({ draft }: { draft: Draft }) {
  const { demo, save } = draft
  if (!takesFilms(demo)) return null
  return (
    <section data-settings="films" className="card-line mt-5 pt-4" aria-labelledby="films-heading" data-testid="films">
      <h3 id="films-heading" className="font-bold">
        Films and the camera
      </h3>
      <label className="mt-1 flex items-start gap-2">
        <input type="checkbox" className="mt-1 size-4 accent-(--glass)" checked={demo.parts?.films ?? false} onChange={(event) => void save({ parts: { films: event.target.checked } })} />
        <span>
          Visitors may have a film answered, or what their camera sees <span className="text-soft">(on the page of the draft at once, for visitors from the next release on)</span>
        </span>
      </label>
      {demo.parts?.films && (
        <SavedInput
          className="mt-2 max-w-xs"
          label="Frames of a second it is asked about (0.1 to 30)"
          value={String(demo.film_rate)}
          inputMode="decimal"
          onSave={(text) => save({ film_rate: (text.trim() === '' ? text : Number(text)) as number })}
        />
      )}
      <p className="mt-1 text-soft">Each frame is a case of its own: the model is told nothing of the frames before.</p>
    </section>
  )
}

/** One picture at a time goes in, and what comes out can be told over time. */
function takesFilms(demo: DemoState): boolean {
  return demo.fields.filter((field) => field.kind === 'picture').length === 1 && ANSWERS.has(demo.answer.kind)
}
