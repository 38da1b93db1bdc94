/** Which known cases are gone through, and in which order. */
import type { DemoState } from '../../api/client'
import { parseNumber } from '../../domain/numbers'
import type { CasesWanted } from './queries'

interface CasesChooserProps {
  demo: DemoState
  wanted: CasesWanted
  onWanted: (wanted: CasesWanted) => void
}

export function CasesChooser({ demo, wanted, onWanted }: CasesChooserProps) {
  const labelOf = (name?: string) => (demo.answer.kind === 'class' && demo.answer.classes.find((one) => one.name === name)?.label) || name
  const isCell = wanted.answered !== undefined
  return (
    <p className="mt-1 flex flex-wrap items-baseline gap-x-5 gap-y-1">
      <label className="flex items-baseline gap-2">
        Order
        <select className="border-b border-edge bg-paper py-0.5" value={wanted.order} onChange={(event) => onWanted({ ...wanted, order: event.target.value as CasesWanted['order'] })}>
          <option value="worst">the worst first</option>
          <option value="table">as in the table</option>
        </select>
      </label>
      {demo.answer.kind === 'class' && (
        <label className="flex items-baseline gap-2">
          Show
          <select className="border-b border-edge bg-paper py-0.5" value={wanted.show} onChange={(event) => onWanted({ ...wanted, show: event.target.value as CasesWanted['show'] })}>
            <option value="all">all</option>
            <option value="wrong">where it was wrong</option>
            <option value="right">where it was right</option>
          </select>
        </label>
      )}
      {demo.answer.kind === 'class' && !isCell && (
        <label className="flex items-baseline gap-2">
          What happened
          <select className="border-b border-edge bg-paper py-0.5" value={wanted.truth ?? ''} onChange={(event) => onWanted({ ...wanted, truth: event.target.value || undefined })}>
            <option value="">any class</option>
            {demo.answer.classes.map((one) => (
              <option key={one.name} value={one.name}>
                {one.label}
              </option>
            ))}
          </select>
        </label>
      )}
      {demo.answer.kind === 'number' && <ByError demo={demo} wanted={wanted} onWanted={onWanted} />}
      {isCell && (
        <>
          <span>
            {labelOf(wanted.truth)}, answered “{labelOf(wanted.answered)}”
          </span>
          <button type="button" className="button-quiet" onClick={() => onWanted({ order: wanted.order, show: wanted.show })}>
            Show all classes
          </button>
        </>
      )}
    </p>
  )
}

/** Of a number: which way it was off, and by how much at least. */
function ByError({ demo, wanted, onWanted }: CasesChooserProps) {
  const unit = demo.answer.kind === 'number' ? demo.answer.unit : ''
  return (
    <>
      <label className="flex items-baseline gap-2">
        Show
        <select className="border-b border-edge bg-paper py-0.5" value={wanted.show} onChange={(event) => onWanted({ ...wanted, show: event.target.value as CasesWanted['show'] })}>
          <option value="all">all</option>
          <option value="high">where it answered too much</option>
          <option value="low">where it answered too little</option>
        </select>
      </label>
      <label className="flex items-baseline gap-2">
        off by more than
        <input
          className="input-line w-16"
          inputMode="decimal"
          defaultValue={wanted.over ?? ''}
          onBlur={(event) => onWanted({ ...wanted, over: parseNumber(event.target.value) ?? undefined })}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
        {unit}
      </label>
    </>
  )
}
