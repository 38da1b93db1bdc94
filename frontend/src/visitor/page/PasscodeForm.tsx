/** Asks for the passcode of a page that has one. */
import { useState } from 'react'
import { api, ApiError, expectData } from '../../api/client'

export interface PasscodeFormProps {
  slug: string
  onOpen: () => void
}

export function PasscodeForm({ slug, onOpen }: PasscodeFormProps) {
  const [passcode, setPasscode] = useState('')
  const [message, setMessage] = useState('')
  const submit = async () => {
    try {
      await expectData(api.POST('/api/v1/demos/{slug}/passcode', { params: { path: { slug } }, body: { passcode } }))
      onOpen()
    } catch (error) {
      setMessage(error instanceof ApiError ? error.message : 'Something went wrong. Try again.')
    }
  }
  return (
    <main className="mx-auto max-w-md px-5 py-24">
      <h1 className="text-[1.4em] font-bold">This page asks for a passcode</h1>
      <p className="mt-2 text-soft">Whoever sent you here has it.</p>
      <form className="mt-6 flex flex-wrap items-end gap-3" onSubmit={(event) => (event.preventDefault(), void submit())}>
        <label className="flex-1">
          <span className="block text-[0.88em]">Passcode</span>
          <input
            type="password"
            className="input-line w-full"
            value={passcode}
            autoComplete="off"
            aria-invalid={message !== ''}
            aria-describedby="passcode-message"
            onChange={(event) => setPasscode(event.target.value)}
          />
        </label>
        <button type="submit" className="button-primary">
          Open
        </button>
      </form>
      <p id="passcode-message" role="alert" className="mt-3 text-alert">
        {message}
      </p>
    </main>
  )
}
