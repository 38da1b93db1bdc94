/** A tour of what was found in a table, one thing at a time. */
import type { StarterLook } from '../../api/client'
import { tourSteps } from './tourSteps'

interface TourProps {
  look: StarterLook
  /** Which step is shown; below 0 for none. */
  at: number
  onGo: (at: number) => void
  onShow: (columns: readonly string[]) => void
}

export function Tour({ look, at, onGo, onShow }: TourProps) {
  const steps = tourSteps(look.sheet)
  const go = (next: number) => {
    onGo(next)
    onShow(steps[next]?.columns ?? [])
  }
  if (steps.length === 0) return null
  const step = steps[at]
  if (!step) {
    return (
      <p className="mb-3">
        <button type="button" className="button-quiet" onClick={() => go(0)}>
          Go through it one by one
        </button>
      </p>
    )
  }
  return (
    <section aria-labelledby="tour-heading" className="mb-5 border-l-3 border-l-glass pl-4" data-testid="tour">
      <p className="text-[0.93em] text-soft">
        {at + 1} of {steps.length}
      </p>
      <div aria-live="polite">
        <h2 id="tour-heading" className="font-bold">
          {step.title}
        </h2>
        <p>{step.sentence}</p>
        <p className="text-soft">{step.why}</p>
      </div>
      <p className="mt-2 flex gap-6">
        {at > 0 && (
          <button type="button" className="button-quiet" onClick={() => go(at - 1)}>
            Back
          </button>
        )}
        {at + 1 < steps.length && (
          <button type="button" className="button-plain" onClick={() => go(at + 1)}>
            Next
          </button>
        )}
        <button type="button" className="button-quiet" onClick={() => go(-1)}>
          {at + 1 < steps.length ? 'Leave the tour' : 'Done'}
        </button>
      </p>
    </section>
  )
}
