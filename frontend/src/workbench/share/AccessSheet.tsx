/** Who may open the page, and where. */
import { Label, Radio, RadioGroup } from '@headlessui/react'
import { useState } from 'react'
import type { AccessChange, DemoState } from '../../api/client'
import { useAccessChange } from '../bench/queries'
import { AddressLine } from './AddressLine'
import { MIN_PASSCODE, passcodeHint } from './passcode'

const ACCESS = [
  { value: 'private', label: 'Only me', help: 'Others are told there is nothing here.' },
  { value: 'link', label: 'Secret link', help: 'Whoever has the link can open it.' },
  { value: 'passcode', label: 'Passcode', help: 'Whoever knows the passcode can open it.' },
  { value: 'everyone', label: 'Everyone', help: 'Anyone who can reach this server.' },
] as const

export function Access({ demo }: { demo: DemoState }) {
  const change = useAccessChange(demo.slug)
  const [isChoosingPasscode, setIsChoosingPasscode] = useState(false)
  const [passcode, setPasscode] = useState('')
  const shown = isChoosingPasscode ? 'passcode' : demo.access.access
  const choose = (access: AccessChange['access']) => {
    setIsChoosingPasscode(access === 'passcode')
    if (access !== 'passcode') change.mutate({ access, new_link: false })
  }
  return (
    <div className="card-line mt-5 pt-4">
      <RadioGroup value={shown} onChange={choose}>
        <Label className="font-bold">Who may open it</Label>
        <div className="mt-2 grid grid-cols-2 gap-1.5">
          {ACCESS.map(({ value, label, help }) => (
            <Radio
              key={value}
              value={value}
              className="border border-line px-3 py-1.5 hover:border-edge data-checked:border-glass data-checked:bg-glass-pale"
            >
              <span className="font-bold">{label}</span>
              <span className="block text-[0.92em] text-soft">{help}</span>
            </Radio>
          ))}
        </div>
      </RadioGroup>
      {isChoosingPasscode && (
        <form
          className="mt-3 flex items-center gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            change.mutate({ access: 'passcode', passcode, new_link: false }, { onSuccess: () => setIsChoosingPasscode(false) })
          }}
        >
          <label className="flex-1">
            <span className="block text-soft">Passcode, at least {MIN_PASSCODE} characters</span>
            <input
              className="input-line w-full"
              value={passcode}
              minLength={MIN_PASSCODE}
              required
              aria-describedby="passcode-hint"
              onChange={(event) => setPasscode(event.target.value)}
            />
            <span id="passcode-hint" role="status" className="mt-1 block min-h-[1.5em] text-[0.92em] text-soft">
              {passcodeHint(passcode)}
            </span>
          </label>
          <button type="submit" className="button-plain">
            Set passcode
          </button>
        </form>
      )}
      {change.error && <p className="mt-2 text-alert">{change.error.message}</p>}
      {/* Each secret link stands below with its own. */}
      {demo.release && demo.access.access !== 'link' ? <Address slug={demo.slug} /> : null}
    </div>
  )
}

function Address({ slug }: { slug: string }) {
  const path = `/d/${slug}`
  return (
    <div className="mt-3">
      <p className="text-soft">The address</p>
      <AddressLine path={path} testId="address" />
    </div>
  )
}
