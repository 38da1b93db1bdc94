/** A labelled line to write on. */
import type { InputHTMLAttributes, ReactNode } from 'react'
import { useId } from 'react'

export interface TextInputProps extends InputHTMLAttributes<HTMLInputElement> {
  label: string
  help?: ReactNode
  /** What is wrong, if something is. */
  fault?: string
}

export function TextInput({ label, help, fault, className = '', ...input }: TextInputProps) {
  const id = useId()
  return (
    <div className={className}>
      <label htmlFor={id} className="block font-bold">
        {label}
      </label>
      <input
        id={id}
        className="input-line w-full"
        aria-invalid={Boolean(fault)}
        aria-describedby={help || fault ? `${id}-help` : undefined}
        {...input}
      />
      {(help || fault) && (
        <p id={`${id}-help`} className={`mt-1 text-[0.9em] ${fault ? 'text-alert' : 'text-soft'}`}>
          {fault ?? help}
        </p>
      )}
    </div>
  )
}
