/** Inputs: a sheet, one row a field, edited in place. */
import { useRef, useState } from 'react'
import type { Field } from '../../api/client'
import { isSeen } from '../../domain/kinds'
import { CasesSheet } from './CasesSheet'
import { KnownPictures } from '../model/KnownPictures'
import { SamplesSheet } from './SamplesSheet'
import type { Draft } from '../bench/useDraft'
import { COLUMNS, FieldSheetRow } from './FieldSheetRow'
import { ManyFields } from './ManyFields'

export function InputsPlace({ draft }: { draft: Draft }) {
  const { fields } = draft.demo
  const list = useRef<HTMLOListElement>(null)
  const [dragged, setDragged] = useState<number | null>(null)
  const [chosen, setChosen] = useState<string[]>([])
  const move = (from: number, to: number) => {
    setDragged(null)
    const names = fields.map((field) => field.name)
    const [moved] = names.splice(from, 1)
    if (moved === undefined || from === to) return
    names.splice(to, 0, moved)
    void draft.save({ fields: names.map((name) => ({ name })) }).then(() => {
      // The handle that was used has moved with its row; the keys go on where it is now.
      requestAnimationFrame(() => list.current?.querySelector<HTMLElement>(`[data-handle="${CSS.escape(moved)}"]`)?.focus())
    })
  }
  return (
    <section aria-labelledby="inputs-heading">
      <h2 id="inputs-heading" className="text-[1.25em] font-bold">
        Inputs
      </h2>
      <p className="max-w-[65ch] text-soft">
        Found in the model and the table. Name and order them for visitors; the model keeps its own names and its own order.
      </p>
      <p id="order-help" className="text-[0.93em] text-soft">
        Drag a row by its handle, or with the handle chosen use the arrow keys; Home moves it to the top, End to the end.
      </p>
      <ManyFields draft={draft} chosen={fields.filter((field) => chosen.includes(field.name))} onChoose={setChosen} />
      <div className={`${COLUMNS} mt-3 text-[0.86em] text-soft`} aria-hidden="true">
        <span />
        <span />
        <span>name</span>
        <span>label</span>
        <span>unit</span>
        <span>range</span>
        <span>starts at</span>
        <span>table</span>
      </div>
      <ol ref={list}>
        {fields.map((field, index) => (
          <FieldSheetRow
            key={field.name}
            field={field}
            draft={draft}
            isDragged={dragged === index}
            isChosen={chosen.includes(field.name)}
            onChoose={(isChosen) => setChosen((names) => (isChosen ? [...names, field.name] : names.filter((name) => name !== field.name)))}
            handle={
              <Handle
                field={field}
                place={`${index + 1} of ${fields.length}`}
                onMove={(to) => move(index, Math.min(fields.length - 1, Math.max(0, to === 'top' ? 0 : to === 'end' ? fields.length - 1 : index + to)))}
                onDrag={() => setDragged(index)}
                onDragEnd={() => setDragged(null)}
              />
            }
            onDropHere={dragged === null ? null : () => move(dragged, index)}
          />
        ))}
      </ol>
      <CasesSheet draft={draft} />
      {fields[0] && fields.length === 1 && isSeen(fields[0]) && draft.demo.answer.kind === 'class' && (
        // What was counted with other pictures than these says nothing any more.
        <KnownPictures key={JSON.stringify([fields[0].preparation, fields[0].behind, fields[0].kind])} draft={draft} field={fields[0]} />
      )}
      {fields[0] && fields.length === 1 && isSeen(fields[0]) && <SamplesSheet draft={draft} field={fields[0]} />}
      {draft.demo.ignored.length > 0 && (
        <p className="card-line pt-3 text-soft">
          Not asked for, because the model ignores {draft.demo.ignored.length === 1 ? 'it' : 'them'}:{' '}
          {draft.demo.ignored.join(', ')}.
        </p>
      )}
    </section>
  )
}

interface HandleProps {
  field: Field
  place: string
  /** So many places down, or to the top or the end. */
  onMove: (to: number | 'top' | 'end') => void
  onDrag: () => void
  onDragEnd: () => void
}

const KEY_MOVES: Record<string, number | 'top' | 'end'> = { ArrowUp: -1, ArrowDown: 1, Home: 'top', End: 'end' }

/** Where a row is taken hold of: dragged, or moved by keys. */
function Handle({ field, place, onMove, onDrag, onDragEnd }: HandleProps) {
  return (
    <button
      type="button"
      draggable
      data-handle={field.name}
      aria-label={`Order of ${field.label}, ${place}`}
      aria-describedby="order-help"
      className="min-h-7 min-w-7 cursor-grab text-glass"
      onDragStart={(event) => {
        event.dataTransfer.effectAllowed = 'move'
        event.dataTransfer.setData('text/plain', field.name)
        onDrag()
      }}
      onDragEnd={onDragEnd}
      onKeyDown={(event) => {
        const to = KEY_MOVES[event.key]
        if (to === undefined) return
        event.preventDefault()
        onMove(to)
      }}
    >
      ⠿
    </button>
  )
}
