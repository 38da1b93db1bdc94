/** A place for one file of a demo. */
interface FilePlaceProps {
  name: string
  label: string
  help: string
  accept?: string
  required?: boolean
}

export function FilePlace({ name, label, help, accept, required }: FilePlaceProps) {
  return (
    <div className="card-line py-5 first:border-t-0">
      <label className="block">
        <span className="font-bold">{label}</span>
        <input
          type="file"
          name={name}
          accept={accept}
          required={required}
          aria-describedby={`${name}-help`}
          className="mt-1 block w-full text-soft file:mr-4 file:rounded-full file:border file:border-glass file:bg-transparent file:px-4 file:py-1 file:font-bold file:text-glass"
        />
      </label>
      <p id={`${name}-help`} className="mt-1 text-soft">
        {help}
      </p>
    </div>
  )
}
