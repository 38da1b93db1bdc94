/** Puts files into the form's places, each by what it is. */
import { assign, HEAD_BYTES, SLOT_WORDS, slotOf, type Slot } from '../../domain/fileKinds'

const inputOf = (form: HTMLFormElement, slot: string) => form.elements.namedItem(slot) as HTMLInputElement | null

/** Files by the places they fit, and those that fit none. */
export async function sorted(files: File[]): Promise<{ slots: Map<Slot, File>; left: File[] }> {
  return assign(await Promise.all(files.map(async (file) => ({ file, head: await headOf(file) }))), new Set())
}

/** That no place was found for some files; nothing where there are none. */
export function leftWords(left: File[]): string {
  const it = left.length === 1 ? 'it' : 'them'
  return left.length > 0 ? `No place was found for ${left.map((file) => file.name).join(', ')}: put ${it} where you mean ${it}.` : ''
}

/** Puts each file where it belongs; what came of it, in words. */
export async function placeFiles(form: HTMLFormElement, files: File[]): Promise<string> {
  const { slots, left } = await sorted(files)
  for (const [slot, file] of slots) put(form, slot, file)
  const words = [...slots].map(([slot, file]) => `${file.name} is taken for ${SLOT_WORDS[slot]}`)
  return [words.length > 0 ? `${words.join(', ')}.` : '', leftWords(left)].filter(Boolean).join(' ')
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
async function headOf(file: File): Promise<string> {
  return new TextDecoder('latin1').decode(await file.slice(0, HEAD_BYTES).arrayBuffer())
}
