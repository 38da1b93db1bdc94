/** Inputs for one setting of the preparation each. */

export function Tick({ label, isOn, onChange }: { label: string; isOn: boolean; onChange: (isOn: boolean) => void }) {
  return (
    <label className="flex min-h-7 items-center gap-2">
      <input type="checkbox" className="size-4 accent-(--glass)" checked={isOn} onChange={(event) => onChange(event.target.checked)} />
      {label}
    </label>
  )
}

export function ColourInput({ label, colour, onChange }: { label: string; colour: number[]; onChange: (colour: number[]) => void }) {
  const hex = `#${colour.map((part) => part.toString(16).padStart(2, '0')).join('')}`
  return (
    <label className="col-span-2 block">
      <span className="block text-soft">{label}</span>
      <input
        type="color"
        className="h-7 w-12"
        defaultValue={hex}
        onBlur={(event) => event.target.value !== hex && onChange([1, 3, 5].map((at) => Number.parseInt(event.target.value.slice(at, at + 2), 16)))}
      />
    </label>
  )
}
