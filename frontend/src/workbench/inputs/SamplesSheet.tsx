/** Sample pictures that visitors can press: added from files, a folder or a zip, named, and taken away. */
import { faultText } from '../../api/faultText'
import { useState } from 'react'
import { type DemoState, type DrawingField, type PictureField } from '../../api/client'
import { FilesInput } from '../shelf/FilesInput'
import { picturesOf } from '../model/knownPictures'
import { SavedInput } from '../bench/SavedInput'
import type { Draft } from '../bench/useDraft'
import { shrunk } from './shrunk'

type Sample = NonNullable<DemoState['samples']>[number]

const MOST_SAMPLES = 20

export function SamplesSheet({ draft, field }: { draft: Draft; field: PictureField | DrawingField }) {
  const [problem, setProblem] = useState('')
  const samples = draft.demo.samples ?? []
  const changed = (next: (now: Sample[]) => Sample[]) => draft.save((now) => ({ samples: next(now.samples ?? []) }))
  const save = async (next: (now: Sample[]) => Sample[]) => {
    try {
      await changed(next)
      setProblem('')
    } catch (error) {
      setProblem(faultText(error))
    }
  }
  const add = async (files: File[]) => {
    try {
      const pictures = await picturesOf(files)
      const room = MOST_SAMPLES - samples.length
      const added = await Promise.all(
        pictures.slice(0, room).map(async ({ name, file }) => ({
          title: titleOf(name),
          inputs: { [field.name]: { data: await shrunk(file) } },
        })),
      )
      await save((now) => [...now, ...added])
      if (pictures.length > room) setProblem(`A demo has at most ${MOST_SAMPLES} samples; ${pictures.length - room} were left out.`)
    } catch (error) {
      setProblem(error instanceof Error ? error.message : 'The pictures cannot be read.')
    }
  }
  return (
    <section className="card-line mt-6 pt-4" aria-labelledby="samples-heading" data-testid="samples">
      <h3 id="samples-heading" className="font-bold">
        Samples
      </h3>
      <p className="max-w-[65ch] text-soft">Pictures that visitors can press to see the demo work at once. They are public with the page.</p>
      <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] gap-4">
        {samples.map((sample, at) => (
          <li key={`${at} ${sample.title}`}>
            <SamplePicture value={sample.inputs[field.name]} />
            <SavedInput
              label={`Name of sample ${at + 1}`}
              isLabelHidden
              value={sample.title}
              onSave={(title) => changed((now) => now.map((one, other) => (other === at ? { ...one, title } : one)))}
            />
            <button type="button" className="button-quiet min-h-7" onClick={() => void save((now) => now.filter((_, other) => other !== at))}>
              Take away<span className="sr-only"> {sample.title}</span>
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-6">
        <FilesInput label="Add pictures" accept="image/*,.zip" isMultiple onFiles={(files) => void add(files)} />
        <FilesInput label="Add a folder" isFolder onFiles={(files) => void add(files)} />
      </div>
      <p role="status" className="text-caution empty:hidden">
        {problem}
      </p>
    </section>
  )
}

function SamplePicture({ value }: { value: unknown }) {
  if (typeof value !== 'object' || value === null) return null
  if ('data' in value && typeof value.data === 'string') {
    return <img src={`data:image/jpeg;base64,${value.data}`} alt="" className="aspect-square w-full object-cover" />
  }
  if ('strokes' in value && Array.isArray(value.strokes)) {
    return (
      <svg viewBox="0 0 1 1" className="aspect-square w-full bg-white" aria-hidden="true">
        {(value.strokes as number[][][]).map((stroke, at) => (
          <polyline key={at} points={stroke.map(([x, y]) => `${x},${y}`).join(' ')} fill="none" stroke="#000" strokeWidth={0.04} />
        ))}
      </svg>
    )
  }
  return null
}

/** "Kiln-shelf_03.jpg" as "Kiln shelf 03". */
function titleOf(name: string): string {
  return name.replace(/\.[^.]*$/, '').replaceAll(/[-_]+/g, ' ').trim().slice(0, 200) || 'A sample'
}
