/** A picture: chosen, dropped, pasted, taken, linked to, or one of the demo's samples; then cut out and turned. */
import { useContext, useEffect, useRef, useState, type ReactNode } from 'react'
import { ApiError, type InputValue, type PictureField } from '../api/client'
import { fetchLink, isPicture, WHOLE, type PictureValue } from '../api/picture'
import { Camera } from './Camera'
import { CaseContext } from './caseContext'
import { CutOut } from './CutOut'
import { DrawOne } from './DrawOne'
import { FieldHead } from './FieldHead'
import type { ControlIds } from './FieldRow'
import { drawPicture, sampleAddress, useSource, type Source } from './pictureSource'
import type { FieldWhy } from './why'

export interface PictureControlProps {
  field: PictureField
  value: InputValue
  ids: ControlIds
  why: FieldWhy | null
  onChange: (value: PictureValue | null) => void
}

type Mode = 'picture' | 'camera' | 'link' | 'draw' | 'cut'

export function PictureControl({ field, value, ids, why, onChange }: PictureControlProps) {
  const [mode, setMode] = useState<Mode>('picture')
  const [problem, setProblem] = useState('')
  const [isOver, setIsOver] = useState(false)
  const { slug, isDraft } = useContext(CaseContext)
  const picture = isPicture(value) ? value : null
  const source = useSource(slug, isDraft, picture)

  const takeFiles = (files: FileList | File[]) => {
    const [file, ...more] = [...files]
    if (!file) return
    setProblem(more.length ? `One picture at a time. The first of ${more.length + 1} is taken.` : '')
    setMode('picture')
    onChange({ file, cut: WHOLE, turn: 0 })
  }
  usePaste(takeFiles)

  return (
    <div
      onDragOver={(event) => (event.preventDefault(), setIsOver(true))}
      onDragLeave={() => setIsOver(false)}
      onDrop={(event) => (event.preventDefault(), setIsOver(false), takeFiles(event.dataTransfer.files))}
    >
      <FieldHead
        why={why}
        label={
          <span id={ids.label} className="font-bold">
            {field.label}
          </span>
        }
      />
      <div className={`border border-dashed p-3 ${isOver ? 'border-glass bg-glass-pale' : 'border-edge'}`}>
        {mode === 'camera' && <Camera onTake={(file) => takeFiles([file])} onLeave={() => setMode('picture')} />}
        {mode === 'link' && <LinkForm onFetched={(file) => takeFiles([file])} onLeave={() => setMode('picture')} />}
        {mode === 'draw' && <DrawOne onDrawn={(file) => takeFiles([file])} onLeave={() => setMode('picture')} />}
        {mode === 'cut' && picture && source.status === 'there' && (
          <CutOut
            image={source.image}
            cut={picture.cut}
            onCut={(cut) => (setMode('picture'), onChange({ ...picture, cut }))}
            onLeave={() => setMode('picture')}
          />
        )}
        {mode === 'picture' && (
          <>
            {picture ? (
              <Preview field={field} picture={picture} source={source} />
            ) : (
              <p className="py-6 text-center text-soft">Drop a picture here, paste one, or choose:</p>
            )}
            <div className="mt-3 flex flex-wrap items-center gap-x-3 gap-y-2 text-[0.9em]">
              <FileButton ids={ids} isFirst={!picture} onFiles={takeFiles} />
              <button type="button" className="button-quiet" onClick={() => setMode('camera')}>
                Take one
              </button>
              <button type="button" className="button-quiet" onClick={() => setMode('link')}>
                From a link
              </button>
              <button type="button" className="button-quiet" onClick={() => setMode('draw')}>
                Draw one
              </button>
              {picture && source.status === 'there' && (
                <>
                  <button type="button" className="button-quiet" onClick={() => setMode('cut')}>
                    Cut out
                  </button>
                  <button type="button" className="button-quiet" onClick={() => onChange(turned(picture))}>
                    Turn
                  </button>
                </>
              )}
              {picture && (
                <button type="button" className="button-quiet" onClick={() => onChange(null)}>
                  Take away
                </button>
              )}
            </div>
          </>
        )}
      </div>
      {problem && (
        <p role="status" className="mt-1 text-[0.88em] text-caution">
          {problem}
        </p>
      )}
      <SampleRow name={field.name} />
    </div>
  )
}

function turned(picture: PictureValue): PictureValue {
  return { ...picture, turn: ((picture.turn + 90) % 360) as PictureValue['turn'] }
}

/** A picture that is pasted anywhere on the page is meant for this field. */
function usePaste(onFiles: (files: File[]) => void) {
  const newest = useRef(onFiles)
  newest.current = onFiles
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])].filter((file) => file.type.startsWith('image/'))
      if (!files.length) return
      event.preventDefault()
      newest.current(files)
    }
    window.addEventListener('paste', onPaste)
    return () => window.removeEventListener('paste', onPaste)
  }, [])
}

interface FileButtonProps {
  ids: ControlIds
  isFirst: boolean
  onFiles: (files: FileList) => void
}

function FileButton({ ids, isFirst, onFiles }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <button
        type="button"
        className={isFirst ? 'button-primary' : 'button-plain'}
        aria-describedby={ids.describedBy}
        onClick={() => input.current?.click()}
      >
        {isFirst ? 'Choose a picture' : 'Another picture'}
      </button>
      <input
        ref={input}
        id={ids.control}
        type="file"
        accept="image/*"
        className="hidden"
        aria-labelledby={ids.label}
        tabIndex={-1}
        onChange={(event) => {
          if (event.target.files) onFiles(event.target.files)
          // The same file may be chosen once more.
          event.target.value = ''
        }}
      />
    </>
  )
}

function Preview({ field, picture, source }: { field: PictureField; picture: PictureValue; source: Source }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { seen } = useContext(CaseContext)
  // A canvas is drawn on by hand.
  useEffect(() => {
    if (canvas.current && source.status === 'there') drawPicture(canvas.current, source.image, picture.cut, picture.turn)
  }, [source, picture.cut, picture.turn])
  const { width, height } = field.preparation
  return (
    <div className="flex flex-wrap items-end gap-4">
      {source.status === 'not shown' ? (
        <p className="text-soft">This browser cannot show the picture. The model may still be able to read it.</p>
      ) : (
        <canvas ref={canvas} role="img" aria-label="Your picture" className="max-h-80 max-w-full" />
      )}
      {seen[field.name] && (
        <figure>
          <img src={seen[field.name]} alt="Your picture as the model sees it" width={96} className="border border-line [image-rendering:pixelated]" />
          <figcaption className="mt-1 text-[0.8em] text-soft">
            As the model sees it: {width} × {height}
            {field.preparation.colour === 'grey' ? ', grey' : ''}
          </figcaption>
        </figure>
      )}
    </div>
  )
}

function LinkForm({ onFetched, onLeave }: { onFetched: (file: File) => void; onLeave: () => void }) {
  const { slug, isDraft } = useContext(CaseContext)
  const [link, setLink] = useState('')
  const [state, setState] = useState<{ status: 'idle' | 'asking' } | { status: 'refused'; message: string }>({ status: 'idle' })
  const ask = async () => {
    setState({ status: 'asking' })
    try {
      onFetched(new File([await fetchLink(slug, link, isDraft)], 'picture'))
    } catch (error) {
      setState({ status: 'refused', message: error instanceof ApiError ? problemText(error) : 'The link cannot be opened from here.' })
    }
  }
  return (
    <div className="space-y-2">
      <label className="block">
        Link to a picture
        <input
          type="url"
          className="input-line mt-1 block w-full"
          value={link}
          placeholder="https://"
          aria-invalid={state.status === 'refused'}
          onChange={(event) => setLink(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return
            // Enter asks for the picture, not for the answer.
            event.preventDefault()
            void ask()
          }}
        />
      </label>
      <p role="status" className="text-[0.88em] text-alert empty:hidden">
        {state.status === 'refused' && `✕ ${state.message}`}
      </p>
      <div className="flex gap-3 text-[0.9em]">
        <button type="button" className="button-primary" disabled={!link.trim() || state.status === 'asking'} onClick={() => void ask()}>
          {state.status === 'asking' ? 'Fetching…' : 'Fetch it'}
        </button>
        <button type="button" className="button-plain" onClick={onLeave}>
          Cancel
        </button>
      </div>
    </div>
  )
}

function problemText(error: ApiError): string {
  return error.problem.errors?.[0]?.message ?? error.problem.detail
}

/** The demo's sample pictures, as pictures to press. */
function SampleRow({ name }: { name: string }) {
  const { slug, isDraft, samples, onTry } = useContext(CaseContext)
  const shown = samples.filter((sample) => isSample(sample.inputs[name]))
  if (!shown.length) return null
  return (
    <div className="mt-3">
      <p className="text-[0.88em] text-soft">Or try one of these:</p>
      <ul className="mt-1 flex flex-wrap gap-3">
        {shown.map((sample) => (
          <li key={sample.title} className="w-20">
            <button type="button" className="text-left text-[0.78em] leading-tight text-soft" onClick={() => onTry(sample.inputs as Record<string, InputValue>)}>
              {pictureOf(sample.inputs[name], slug, isDraft)}
              <span className="mt-1 block">{sample.title}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}

function pictureOf(value: unknown, slug: string, isDraft: boolean): ReactNode {
  const { sample } = value as { sample: string }
  return <img src={sampleAddress(slug, sample, isDraft)} alt="" className="size-20 object-cover" />
}

function isSample(value: unknown): boolean {
  return typeof value === 'object' && value !== null && 'sample' in value
}
