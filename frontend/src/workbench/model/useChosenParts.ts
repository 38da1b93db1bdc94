/** Files that are looked at together beside what there is, before any is taken over. */
import { useState } from 'react'
import type { Slot } from '../../domain/fileKinds'
import { leftWords, sorted } from '../shelf/placeFiles'
import { useCompare } from './useCompare'

export type Chosen = ReadonlyMap<Slot, File>
const NONE: Chosen = new Map()

export function useChosenParts(slug: string) {
  const compare = useCompare(slug)
  const [chosen, setChosen] = useState<Chosen>(NONE)
  const [unplaced, setUnplaced] = useState('')
  // What was answered to questions about the tables.
  const [told, setTold] = useState<Record<string, string>>({})

  const choose = (files: Chosen) => {
    const all = new Map([...chosen, ...files])
    setChosen(all)
    compare.begin(formOf(all, told))
  }
  const place = async (files: File[]) => {
    const { slots, left } = await sorted(files)
    setUnplaced(leftWords(left))
    if (slots.size > 0) choose(slots)
  }
  const tell = (words: Record<string, string>) => {
    const every = { ...told, ...words }
    setTold(every)
    compare.begin(formOf(chosen, every))
  }
  const leave = () => {
    compare.giveUp()
    setChosen(NONE)
    setUnplaced('')
    setTold({})
  }
  return { chosen, unplaced, compare, choose, place, tell, leave, form: () => formOf(chosen, told), names: [...chosen.values()].map((file) => file.name).join(', ') }
}

function formOf(files: Chosen, told: Record<string, string>): FormData {
  const form = new FormData()
  for (const [name, file] of files) form.append(name, file, file.name)
  for (const [name, word] of Object.entries(told)) form.set(name, word)
  return form
}
