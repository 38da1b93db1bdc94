/** A picture: chosen, dropped, pasted, taken, linked to, or one of the ready ones; then cut out and turned. */
import { useContext, useEffect, useEffectEvent, useRef, useState, type ReactNode } from 'react'
import type { InputValue, PictureField } from '../../api/client'
import { isPicture, WHOLE, type PictureValue } from '../../api/picture'
import { Camera } from './Camera'
import { CaseContext } from '../case/caseContext'
import { CutOut } from './CutOut'
import { DrawOne } from './DrawOne'
import { FieldHead } from '../fields/FieldHead'
import type { ControlIds } from '../fields/FieldRow'
import { Pane } from './Pane'
import { PictureLink } from './PictureLink'
import { PicturePane, UnderPane } from './PicturePane'
import { useSource } from './pictureSource'
import { SmallPanes } from './SmallPanes'
import type { FieldWhy } from '../../domain/why'

export interface PictureControlProps {
  field: PictureField
  value: InputValue
  ids: ControlIds
  why: FieldWhy | null
  onChange: (value: PictureValue | null) => void
}

type Mode = 'picture' | 'camera' | 'link' | 'draw' | 'cut'

const USUAL_FROST = 0.9

export function PictureControl({ field, value, ids, why, onChange }: PictureControlProps) {
  const [mode, setMode] = useState<Mode>('picture')
  const [problem, setProblem] = useState('')
  const [frost, setFrost] = useState(USUAL_FROST)
  const { slug, isDraft, where, nameOfOutput } = useContext(CaseContext)
  const picture = isPicture(value) ? value : null
  const source = useSource(slug, isDraft, picture)
  const looked = where.find((one) => one.field === field.name) ?? null

  const takeFiles = (files: FileList | File[]) => {
    const [file, ...more] = [...files]
    if (!file) return
    setProblem(more.length ? `One picture at a time. The first of ${more.length + 1} is taken.` : '')
    setMode('picture')
    onChange({ file, cut: WHOLE, turn: 0 })
  }
  const isOver = usePageDrop(takeFiles)
  usePaste(takeFiles)
  const leave = () => setMode('picture')

  return (
    <div role="group" aria-labelledby={ids.label} aria-describedby={ids.describedBy} tabIndex={-1} className="picture-field">
      <FieldHead
        why={why}
        label={
          <span id={ids.label} className="font-bold">
            {field.label}
          </span>
        }
      />
      <div className="picture-window">
        <SmallPanes name={field.name} />
        <div className="min-w-0 flex-1">
          <Pane
            isOver={isOver}
            ways={
              <Ways
                picture={picture}
                isShown={source.status === 'there'}
                ids={ids}
                onFiles={takeFiles}
                onMode={setMode}
                onTurn={() => picture && onChange(turned(picture))}
                onTakeAway={() => (setMode('picture'), onChange(null))}
              />
            }
            under={
              mode === 'picture' && picture && (
                <UnderPane field={field} where={looked} of={looked ? nameOfOutput(looked.of) : ''} strength={frost} onStrength={setFrost} />
              )
            }
          >
            {mode === 'camera' && <Camera onTake={(file) => takeFiles([file])} onLeave={leave} />}
            {mode === 'link' && <PictureLink onFetched={(file) => takeFiles([file])} onLeave={leave} />}
            {mode === 'draw' && <DrawOne onDrawn={(file) => takeFiles([file])} onLeave={leave} />}
            {mode === 'cut' && picture && source.status === 'there' && (
              <CutOut image={source.image} cut={picture.cut} onCut={(cut) => (leave(), onChange({ ...picture, cut }))} onLeave={leave} />
            )}
            {mode === 'picture' && picture && <PicturePane field={field} picture={picture} source={source} where={looked} strength={frost} />}
            {mode === 'picture' && !picture && (
              <p className="absolute inset-0 grid place-items-center p-6 text-center text-soft">
                Drop a picture anywhere on this page, or paste one. Or choose one above.
              </p>
            )}
          </Pane>
          {problem && (
            <p role="status" className="mt-1 text-[0.88em] text-caution">
              {problem}
            </p>
          )}
        </div>
      </div>
    </div>
  )
}

function turned(picture: PictureValue): PictureValue {
  return { ...picture, turn: ((picture.turn + 90) % 360) as PictureValue['turn'] }
}

/** A picture that is dropped anywhere on the page is meant for this field; says whether one is held over it. */
function usePageDrop(onFiles: (files: FileList) => void): boolean {
  const [isOver, setIsOver] = useState(false)
  const take = useEffectEvent(onFiles)
  // The page around this field is outside React's reach.
  useEffect(() => {
    const hasFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false
    const over = (event: DragEvent) => {
      if (!hasFiles(event)) return
      event.preventDefault()
      setIsOver(true)
    }
    const leave = (event: DragEvent) => event.relatedTarget === null && setIsOver(false)
    const drop = (event: DragEvent) => {
      if (!hasFiles(event)) return
      event.preventDefault()
      setIsOver(false)
      if (event.dataTransfer) take(event.dataTransfer.files)
    }
    window.addEventListener('dragover', over)
    window.addEventListener('dragleave', leave)
    window.addEventListener('drop', drop)
    return () => {
      window.removeEventListener('dragover', over)
      window.removeEventListener('dragleave', leave)
      window.removeEventListener('drop', drop)
    }
  }, [])
  return isOver
}

/** A picture that is pasted anywhere on the page is meant for this field. */
function usePaste(onFiles: (files: File[]) => void) {
  const take = useEffectEvent(onFiles)
  // The clipboard is outside React.
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])].filter((file) => file.type.startsWith('image/'))
      if (!files.length) return
      event.preventDefault()
      take(files)
    }
    window.addEventListener('paste', onPaste)
    return () => window.removeEventListener('paste', onPaste)
  }, [])
}

interface WaysProps {
  picture: PictureValue | null
  /** Whether its pixels are there to be cut and turned. */
  isShown: boolean
  ids: ControlIds
  onFiles: (files: FileList) => void
  onMode: (mode: Mode) => void
  onTurn: () => void
  onTakeAway: () => void
}

/** Ways in along the pane's upper edge, and on its right what can be done with the picture that is there. */
function Ways({ picture, isShown, ids, onFiles, onMode, onTurn, onTakeAway }: WaysProps) {
  const { isInBrowser } = useContext(CaseContext)
  const way = (words: string, act: () => void): ReactNode => (
    <button type="button" className="button-quiet" onClick={act}>
      {words}
    </button>
  )
  return (
    <>
      <FileButton ids={ids} isFirst={!picture} onFiles={onFiles} />
      {way('Take one', () => onMode('camera'))}
      {!isInBrowser && way('From a link', () => onMode('link'))}
      {way('Draw one', () => onMode('draw'))}
      {picture && (
        <span className="ml-auto flex gap-x-4">
          {/* Their room is kept until the picture shows. */}
          <span className={`flex gap-x-4 ${isShown ? '' : 'invisible'}`}>
            {way('Cut out', () => onMode('cut'))}
            {way('Turn', onTurn)}
          </span>
          {way('Take away', onTakeAway)}
        </span>
      )}
    </>
  )
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
      <button type="button" className={isFirst ? 'button-primary' : 'button-quiet'} aria-describedby={ids.describedBy} onClick={() => input.current?.click()}>
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
