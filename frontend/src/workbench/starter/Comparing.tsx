/** How models compare: each one's error with its interval, against guessing; one of them is taken. */
import { useState } from 'react'
import type { Comparison, JobView, StarterLook } from '../../api/client'
import { TextInput } from '../../parts/TextInput'
import { Problem } from '../bench/Problem'
import { CompareChart, type ModelName } from './CompareChart'
import { useCancel, useGoOn } from './queries'
import { triedText } from './starterWords'

interface ComparingProps {
  job: JobView
  look: StarterLook
  compared: Comparison
}

export function Comparing({ job, look, compared }: ComparingProps) {
  const goOn = useGoOn(job.id)
  const cancel = useCancel(job.id)
  const [chosen, setChosen] = useState<ModelName>((look.choices.model || compared.offered) as ModelName)
  const [title, setTitle] = useState(look.choices.title ?? '')
  const name = compared.tried.find(({ candidate }) => candidate === chosen)?.name ?? ''
  return (
    <section aria-labelledby="compared-heading" className="max-w-4xl">
      <h1 id="compared-heading" className="text-[1.6em] font-bold">
        {compared.is_better ? 'How models compare' : 'Not better than guessing'}
      </h1>
      <p className={`mt-2 max-w-[70ch] ${compared.is_better ? '' : 'text-caution'}`}>
        {!compared.is_better && <span aria-hidden="true">! </span>}
        {compared.verdict}
      </p>
      <CompareChart compared={compared} chosen={chosen} onChoose={setChosen} />
      <p className="mt-4 max-w-[70ch] text-soft">{triedText(look)}</p>
      {compared.weights !== 'none' && <p className="mt-2 max-w-[70ch] text-soft">{weightsText(compared)}</p>}
      <div className="card-line mt-5 grid gap-x-8 gap-y-3 pt-4 min-[700px]:grid-cols-2">
        <TextInput name="title" label="Title of the page" maxLength={200} help="Left empty, one is made of the outcome’s column." value={title} onChange={(event) => setTitle(event.target.value)} />
      </div>
      {!compared.is_better && <p className="mt-3 max-w-[70ch]">A page made all the same says to its visitors that it was no better than guessing.</p>}
      <Problem error={goOn.error ?? cancel.error} />
      <p className="mt-4 flex flex-wrap items-center gap-x-6 gap-y-2">
        <button type="button" className="button-primary" disabled={goOn.isPending} onClick={() => goOn.mutate({ model: chosen, title })}>
          Make the page: {name}
        </button>
        <button type="button" className="button-quiet" onClick={() => cancel.mutate()}>
          Cancel
        </button>
      </p>
    </section>
  )
}

function weightsText({ weights }: Comparison): string {
  const both = 'One outcome is far more frequent than the others, so all count the same here. Models were also tried that make rare ones count as much as frequent ones;'
  return `${weights === 'both' ? both : 'Rare outcomes were made to count as much as frequent ones;'} where such a one is taken, its probabilities of rare outcomes are too high. The page says how often they come true.`
}
