/** A piece of text. */
import { useContext } from 'react'
import type { TextField } from '../../api/client'
import { CaseContext } from '../case/caseContext'
import { LabelledHead } from './FieldHead'
import type { ControlIds } from './FieldRow'
import type { FieldWhy } from '../../domain/why'
import { WordsWhy } from './WordsWhy'

export interface TextControlProps {
  field: TextField
  text: string
  ids: ControlIds
  why: FieldWhy | null
  onChange: (text: string) => void
}

export function TextControl({ field, text, ids, why, onChange }: TextControlProps) {
  const { explains } = useContext(CaseContext)
  return (
    <>
      <LabelledHead label={field.label} ids={ids} why={why} />
      <textarea
        id={ids.control}
        className="block min-h-24 w-full border border-edge bg-paper px-2 py-1"
        rows={4}
        value={text}
        maxLength={field.max_length}
        aria-describedby={ids.describedBy}
        aria-invalid={ids.isInvalid}
        onChange={(event) => onChange(event.target.value)}
      />
      <p className="mt-1 text-[0.8em] text-soft">{countWords(text, field.max_length ?? Number.POSITIVE_INFINITY)}</p>
      {/* Its room is there from the start: what stands below must not move when it comes. */}
      <div className={explains ? 'flow-root min-h-40' : ''}>{why?.words && why.words.words.length > 0 && <WordsWhy text={text} why={why} words={why.words} />}</div>
    </>
  )
}

/** "12 words, 63 characters", and what is left once that is little. */
function countWords(text: string, most: number): string {
  const words = text.match(/[\p{L}\p{N}]+/gu)?.length ?? 0
  const characters = [...text].length
  const counts = `${words} ${words === 1 ? 'word' : 'words'}, ${characters} ${characters === 1 ? 'character' : 'characters'}`
  return characters > most * 0.9 ? `${counts} of ${most}` : counts
}
