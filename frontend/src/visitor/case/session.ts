/** The case and the kept answers of this tab, brought back when the page is loaded again; gone when the tab is closed. */
import { isPicture } from '../../api/picture'
import type { InputValue } from '../../api/client'
import type { FormValues } from '../../domain/formState'
import type { KeptAnswer } from '../answer/Kept'

export interface Remembered {
  values: FormValues
  /** Whether an answer had been asked for. */
  isAsked: boolean
  kept: KeptAnswer[]
}

/** What a tab's own memory has room for; a larger picture has to be shown again. */
const MOST_PICTURE_BYTES = 2 << 20

interface StoredFile {
  type: string
  base64: string
}

/** Write it down; nothing is said if the browser has no room or keeps nothing. */
export async function rememberSession(slug: string, { values, isAsked, kept }: Remembered): Promise<void> {
  try {
    const stored = {
      values: await packed(values),
      isAsked,
      kept: await Promise.all(kept.map(async (one) => ({ ...one, inputs: await packed(one.inputs) }))),
    }
    sessionStorage.setItem(keyOf(slug), JSON.stringify(stored))
  } catch {
    // Full, or switched off: the page works without.
    forgetSession(slug)
  }
}

export function readSession(slug: string): Remembered | null {
  try {
    const text = sessionStorage.getItem(keyOf(slug))
    if (!text) return null
    const stored = JSON.parse(text) as Remembered
    return { ...stored, values: unpacked(stored.values), kept: stored.kept.map((one) => ({ ...one, inputs: unpacked(one.inputs) })) }
  } catch {
    return null
  }
}

function forgetSession(slug: string): void {
  try {
    sessionStorage.removeItem(keyOf(slug))
  } catch {
    // Nothing was kept then.
  }
}

function keyOf(slug: string): string {
  return `plain-window:${slug}`
}

async function packed(values: Record<string, InputValue>): Promise<Record<string, unknown>> {
  const entries = Object.entries(values).map(async ([name, value]) => {
    if (!isPicture(value) || !value.file) return [name, value] as const
    return [name, value.file.size > MOST_PICTURE_BYTES ? null : { ...value, file: await storedFile(value.file) }] as const
  })
  return Object.fromEntries(await Promise.all(entries))
}

async function storedFile(file: Blob): Promise<StoredFile> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  const parts: string[] = []
  for (let at = 0; at < bytes.length; at += 0x8000) parts.push(String.fromCharCode(...bytes.subarray(at, at + 0x8000)))
  return { type: file.type, base64: btoa(parts.join('')) }
}

function unpacked(values: Record<string, InputValue>): Record<string, InputValue> {
  return Object.fromEntries(
    Object.entries(values).map(([name, value]) => {
      const stored = isPicture(value) ? (value.file as unknown as StoredFile | undefined) : undefined
      if (!isPicture(value) || !stored) return [name, value]
      return [name, { ...value, file: new Blob([Uint8Array.from(atob(stored.base64), (sign) => sign.charCodeAt(0))], { type: stored.type }) }]
    }),
  )
}
