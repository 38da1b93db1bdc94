/** Whether the rows of the reference table go along with a model that leaves this server, and who can read them then. */

export interface RowsAlongProps {
  nRows: number
  /** Rows that contributions are counted against, which go along all the same. */
  nSample: number
  hasRows: boolean
  who: string
  onChoose: (hasRows: boolean) => void
}

export function RowsAlong({ nRows, nSample, hasRows, who, onChoose }: RowsAlongProps) {
  if (nRows === 0) return null
  return (
    <>
      <label className="mt-2 flex items-start gap-2">
        <input type="checkbox" className="mt-1 size-4 shrink-0 accent-(--glass)" checked={hasRows} onChange={(event) => onChoose(event.target.checked)} />
        <span>
          With the {nRows} rows of your reference table <span className="text-soft">({who} can read them all; the page needs them for similar cases, and to tell what is unlike anything seen)</span>
        </span>
      </label>
      {!hasRows && nSample > 0 && (
        <p className="mt-1 max-w-[65ch] text-soft">
          {nSample} rows are in it all the same: what each value adds is counted against them. To leave those out too, switch “Contributions” off under Answer.
        </p>
      )}
    </>
  )
}
