/** Puts files into the form's places, each by what it is. */
import { assign, HEAD_BYTES, SLOT_WORDS, slotOf, type Slot } from '../../domain/fileKinds'

const inputOf = (form: HTMLFormElement, slot: string) => form.elements.namedItem(slot) as HTMLInputElement | null

/** Puts each file where it belongs; what came of it, in words. */
export async function placeFiles(form: HTMLFormElement, files: File[]): Promise<string> {
  const read = await Promise.all(files.map(async (file) => ({ file, head: await headOf(file) })))
  const { slots, left } = assign(read, new Set())
  for (const [slot, file] of slots) put(form, slot, file)
  const words = [...slots].map(([slot, file]) => `${file.name} is taken for ${SLOT_WORDS[slot]}`)
  const others = left.map((file) => file.name).join(', ')
  return [words.length > 0 ? `${words.join(', ')}.` : '', others && `No place was found for ${others}: put ${left.length === 1 ? 'it' : 'them'} where you mean ${left.length === 1 ? 'it' : 'them'} below.`].filter(Boolean).join(' ')
}

/** Moves a file that was put in another one's place, if its own is empty; what was done, in words, or nothing. */
export async function moveIfElsewhere(form: HTMLFormElement, input: HTMLInputElement): Promise<string> {
  const file = input.files?.[0]
  if (!file || !(input.name in SLOT_WORDS)) return ''
  const slot = slotOf(file.name, await headOf(file))
  const isAlike = slot && kindsOf(slot) === kindsOf(input.name as Slot)
  const place = slot && inputOf(form, slot)
  if (!slot || !place || isAlike || place.files?.length) return ''
  input.value = ''
  put(form, slot, file)
  return `${file.name} is taken for ${SLOT_WORDS[slot]}, and was put there.`
}

/** A table may be either of two, a model too: that is for its author to say. */
function kindsOf(slot: Slot): string {
  return slot === 'reference' || slot === 'known' ? 'table' : slot === 'model' || slot === 'preprocessor' ? 'model' : slot
}

function put(form: HTMLFormElement, slot: Slot, file: File): void {
  const input = inputOf(form, slot)
  if (!input) return
  const transfer = new DataTransfer()
  transfer.items.add(file)
  input.files = transfer.files
  // What is folded away would be overlooked.
  input.closest('details')?.setAttribute('open', '')
}

/** The first bytes, each a character: what a file is shows there. */
export async function headOf(file: File): Promise<string> {
  return new TextDecoder('latin1').decode(await file.slice(0, HEAD_BYTES).arrayBuffer())
}
