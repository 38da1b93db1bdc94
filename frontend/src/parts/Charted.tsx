/** A chart that can be saved as a picture. */
import { useRef, type ReactNode } from 'react'
import { pictureOf } from './pictureOf'

export function Charted({ name, children }: { name: string; children: ReactNode }) {
  const place = useRef<HTMLDivElement>(null)
  const save = async () => {
    const svg = place.current?.querySelector('svg')
    if (!svg) return
    const address = URL.createObjectURL(await pictureOf(svg))
    const link = Object.assign(document.createElement('a'), { href: address, download: `${name}.png` })
    link.click()
    URL.revokeObjectURL(address)
  }
  return (
    <div ref={place}>
      {children}
      <button type="button" className="button-quiet text-[0.86em] print:hidden" onClick={() => void save()}>
        Save as a picture<span className="sr-only">: {name}</span>
      </button>
    </div>
  )
}
