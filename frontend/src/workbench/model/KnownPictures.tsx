/** The draft's answers on known pictures beside the truth, with a wall of those it gets wrong. */
import { faultText } from '../../api/faultText'
import { useEffect, useRef, useState } from 'react'
import { ApiError, type Field } from '../../api/client'
import { predict, WHOLE } from '../../api/picture'
import { saidShare } from '../../domain/saidClass'
import { FilesInput } from '../shelf/FilesInput'
import { knownPicturesOf, missesOf, tallied, type KnownAnswer, type KnownPicture } from './knownPictures'
import type { Draft } from '../bench/useDraft'
import { Misses } from './Misses'

/** Asked at the same time: as many as there are processes for, and no more. */
const AT_ONCE = 2
const RETRY_MS = 1500

type Progress = { status: 'idle' } | { status: 'refused'; message: string } | { status: 'asking' | 'done'; answers: KnownAnswer[]; all: number }

export function KnownPictures({ draft, field }: { draft: Draft; field: Field }) {
  const [progress, setProgress] = useState<Progress>({ status: 'idle' })
  const control = useRef<AbortController | null>(null)
  useEffect(() => () => control.current?.abort(), [])

  const begin = async (files: File[]) => {
    control.current?.abort()
    const mine = new AbortController()
    control.current = mine
    try {
      const pictures = await knownPicturesOf(files)
      const answers: KnownAnswer[] = []
      setProgress({ status: 'asking', answers, all: pictures.length })
      const waiting = [...pictures]
      const work = async () => {
        for (let next = waiting.shift(); next && !mine.signal.aborted; next = waiting.shift()) {
          answers.push(await askAbout(draft.demo.slug, field.name, next))
          if (!mine.signal.aborted) setProgress({ status: 'asking', answers: [...answers], all: pictures.length })
        }
      }
      await Promise.all(Array.from({ length: AT_ONCE }, work))
      if (!mine.signal.aborted) setProgress({ status: 'done', answers, all: pictures.length })
    } catch (error) {
      setProgress({ status: 'refused', message: error instanceof Error ? error.message : 'The pictures cannot be read.' })
    }
  }
  return (
    <section className="card-line mt-6 pt-4" aria-labelledby="known-heading" data-testid="known-pictures">
      <h3 id="known-heading" className="font-bold">
        Known pictures
      </h3>
      <p className="max-w-[65ch] text-soft">
        A folder of pictures for each class, named after it; or a zip of the folders. They are asked about one by one and not kept.
      </p>
      <div className="mt-2 flex flex-wrap gap-6">
        <FilesInput label="Choose a folder" isFolder onFiles={(files) => void begin(files)} />
        <FilesInput label="Choose a zip" accept=".zip,application/zip" onFiles={(files) => void begin(files)} />
      </div>
      <p role="status" className="mt-2">
        {progress.status === 'asking' && `${progress.answers.length} of ${progress.all} asked…`}
        {progress.status === 'done' && `${progress.answers.length - missesOf(progress.answers).length} of ${progress.all} right.`}
        {progress.status === 'refused' && <span className="text-alert">✕ {progress.message}</span>}
      </p>
      {(progress.status === 'asking' || progress.status === 'done') && progress.answers.length > 0 && (
        <>
          <ByClass answers={progress.answers} />
          <Misses misses={missesOf(progress.answers)} />
        </>
      )}
    </section>
  )
}

async function askAbout(slug: string, name: string, picture: KnownPicture): Promise<KnownAnswer> {
  for (;;) {
    try {
      const { answer } = await predict(slug, { [name]: { file: picture.file, cut: WHOLE, turn: 0 } }, { draft: '1' })
      const share = answer.kind === 'class' ? saidShare(answer) : undefined
      return { picture, said: share?.class ?? null, probability: share?.probability ?? 0, problem: '' }
    } catch (error) {
      if (error instanceof ApiError && error.retryAfterMs !== null) {
        await new Promise((resolve) => setTimeout(resolve, error.retryAfterMs ?? RETRY_MS))
        continue
      }
      const problem = faultText(error, 'No answer.')
      return { picture, said: null, probability: 0, problem }
    }
  }
}

function ByClass({ answers }: { answers: KnownAnswer[] }) {
  return (
    <table className="mt-2 text-left">
      <thead>
        <tr className="text-soft">
          <th className="pr-8 font-normal">Shows</th>
          <th className="text-right font-normal">Right</th>
        </tr>
      </thead>
      <tbody>
        {tallied(answers).map((tally) => (
          <tr key={tally.outcome} className="border-t border-line">
            <td className="py-0.5 pr-8">{tally.outcome}</td>
            <td className="text-right">
              {tally.right} of {tally.all}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
