/** A camera asked about live: one question at a time, always the newest picture next. What comes in between is dropped. */
import { ApiError, type AnswerSetting, type FilmFrame, type FilmRow, type Inputs, type PredictionAnswer } from '../../api/client'
import { predict, WHOLE } from '../../api/picture'
import { LOWEST_SCORE } from '../pictures/boxesView'

export interface LiveState {
  frames: FilmFrame[]
  /** Of the picture that was asked about last. */
  size: { width: number; height: number } | null
  /** How old what is said is when it comes, in seconds. */
  late: number
  /** Why there is no answer just now; empty while there is. */
  trouble: string
}

export const NOTHING_LIVE: LiveState = { frames: [], size: null, late: 0, trouble: '' }

/** So much of the past is kept in sight. */
export const LIVE_SECONDS = 60
/** The longest side of what is sent: a model looks at less. */
const MOST_SIDE = 1280
const QUALITY = 0.9
const FEWEST_PAUSE_MS = 20

export interface LiveWanted {
  slug: string
  isDraft: boolean
  inputs: Inputs
  /** The field that the picture is for. */
  field: string
  /** At the most so many questions a second. */
  rate: number
  setting: AnswerSetting
}

/** Ask until `signal` says that it is enough. */
export async function askLive(video: HTMLVideoElement, wanted: LiveWanted, signal: AbortSignal, onNews: (change: (before: LiveState) => LiveState) => void): Promise<void> {
  const began = performance.now()
  while (!signal.aborted) {
    const asked = performance.now()
    const picture = await newest(video)
    if (!picture) {
      await pause(100)
      continue
    }
    let wait = 1000 / wanted.rate
    try {
      const inputs = { ...wanted.inputs, [wanted.field]: { file: picture.file, cut: WHOLE, turn: 0 as const } }
      const query = { ...(wanted.isDraft ? { draft: '1' } : {}), ...(wanted.setting.kind === 'boxes' ? { least_score: LOWEST_SCORE } : {}) }
      const answer = await predict(wanted.slug, inputs, query, signal)
      if (signal.aborted) return
      const at = (asked - began) / 1000
      const frame = frameOf(wanted.setting, answer, at)
      onNews((before) => ({ frames: [...before.frames.filter((one) => one.at > at - LIVE_SECONDS), frame], size: picture.size, late: (performance.now() - asked) / 1000, trouble: '' }))
    } catch (error) {
      if (signal.aborted) return
      wait = Math.max(1000, error instanceof ApiError ? (error.retryAfterMs ?? 0) : 0)
      const message = error instanceof Error ? error.message : String(error)
      onNews((before) => ({ ...before, trouble: message }))
    }
    await pause(Math.max(FEWEST_PAUSE_MS, wait - (performance.now() - asked)))
  }
}

async function newest(video: HTMLVideoElement): Promise<{ file: Blob; size: { width: number; height: number } } | null> {
  const { videoWidth: width, videoHeight: height } = video
  if (!width || !height || video.readyState < 2) return null
  const share = Math.min(1, MOST_SIDE / Math.max(width, height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.round(width * share)
  canvas.height = Math.round(height * share)
  canvas.getContext('2d')?.drawImage(video, 0, 0, canvas.width, canvas.height)
  const file = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', QUALITY))
  return file && { file, size: { width: canvas.width, height: canvas.height } }
}

function pause(ms: number): Promise<void> {
  return new Promise((done) => setTimeout(done, ms))
}

/** What the rows of an answer are, as a film's job tells them too. */
export function rowsOf(setting: AnswerSetting): FilmRow[] {
  switch (setting.kind) {
    case 'class':
      return setting.classes.map(({ name, label }) => ({ name, label, unit: '' }))
    case 'labels':
    case 'boxes':
      return setting.labels.map(({ name, label }) => ({ name, label, unit: '' }))
    case 'numbers':
      return setting.values.map(({ name = '', unit = '' }) => ({ name, label: name, unit }))
    case 'number':
      return [{ name: setting.name ?? '', label: setting.name ?? '', unit: setting.unit ?? '' }]
    default:
      return []
  }
}

/** A page's answer as a film's frame has it. */
function frameOf(setting: AnswerSetting, { answer }: PredictionAnswer, at: number): FilmFrame {
  const frame: FilmFrame = { at, values: [], marks: [], texts: [], said: null, boxes: [], fault: '' }
  const rows = rowsOf(setting)
  switch (answer.kind) {
    case 'class': {
      const found = new Map(answer.probabilities.map((one) => [one.class, one]))
      const values = rows.map((row) => found.get(row.name)?.probability ?? (row.name === answer.class ? 1 : 0))
      return { ...frame, said: answer.class, values, marks: found.size ? rows.map((row) => found.get(row.name)?.of_100 ?? 0) : [] }
    }
    case 'labels': {
      const found = new Map(answer.labels.map((one) => [one.name, one]))
      return { ...frame, values: rows.map((row) => found.get(row.name)?.probability ?? 0), marks: rows.map((row) => found.get(row.name)?.of_100 ?? 0) }
    }
    case 'boxes':
      return { ...frame, boxes: answer.boxes }
    case 'numbers':
      return { ...frame, values: answer.values.map((one) => one.value), texts: answer.values.map((one) => one.text ?? String(one.value)) }
    case 'number':
      return { ...frame, values: [answer.value], texts: [answer.text ?? String(answer.value)] }
    default:
      return frame
  }
}
