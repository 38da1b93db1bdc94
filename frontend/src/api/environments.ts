/** Calls that need libraries built first, or take long: the server answers with a job, which is followed here until it is
 * over. */
import { api, ApiError, expectData, sendForm, type DemoState, type JobView, type Replaced, type UploadProgress } from './client'
import { linesOf } from './lines'

const OVER = ['done', 'failed', 'cancelled']
const AGAIN_MS = 300
const LARGE_BYTES = 32 * 1024 * 1024

/** How far a call is: sending, or the log of what is built for it. */
export interface Progress extends UploadProgress {
  log?: string[]
}

export type OnProgress = (progress: Progress) => void

/** Whether an answer is a job that something waits for. */
function isJob(answer: object): answer is JobView {
  return 'kind' in answer && (answer.kind === 'environment' || answer.kind === 'model')
}

/**
 * Bring a model, or a folder of one.
 *
 * @throws ApiError
 */
export async function bringModel(form: FormData, onProgress: OnProgress, signal?: AbortSignal): Promise<{ slug: string }> {
  const bytes = [...form.values()].reduce((sum, part) => sum + (part instanceof File ? part.size : 0), 0)
  // What takes minutes to open is a job: no connection has to last for so long.
  const headers = bytes > LARGE_BYTES ? { Prefer: 'respond-async' } : undefined
  const answer = await sendForm<DemoState | JobView>('POST', '/api/v1/demos', form, onProgress, signal, headers)
  return isJob(answer) ? followed(answer, onProgress, signal) : answer
}

/**
 * Replace the model of a demo, or parts of what came with it; empty parts take away.
 *
 * @throws ApiError
 */
export function replaceParts(slug: string, form: FormData, onProgress: OnProgress): Promise<Replaced> {
  return withLibraries(`/api/v1/demos/${slug}/model`, form, onProgress)
}

/**
 * What another model or table would change; nothing is taken over.
 *
 * @throws ApiError
 */
export function compareParts(slug: string, form: FormData, onProgress: OnProgress, signal: AbortSignal): Promise<Replaced> {
  return withLibraries(`/api/v1/demos/${slug}/model?try=1`, form, onProgress, signal)
}

/** Sends it; where something had to be built first, once more, for the answer. */
async function withLibraries(path: string, form: FormData, onProgress: OnProgress, signal?: AbortSignal): Promise<Replaced> {
  const answer = await sendForm<Replaced | JobView>('PUT', path, form, onProgress, signal)
  if (!isJob(answer)) return answer
  await followed(answer, onProgress, signal)
  return sendForm<Replaced>('PUT', path, form, onProgress, signal)
}

/** Tells a job's log from its beginning, for as long as one connection lasts: the server ends it after a while. */
async function told(id: string, onProgress: OnProgress, signal?: AbortSignal): Promise<void> {
  const log: string[] = []
  onProgress({ sent: 1, log })
  try {
    const response = await fetch(`/api/v1/jobs/${id}/events`, { signal })
    if (response.ok && response.body) {
      for await (const line of linesOf(response.body)) {
        log.push(...(JSON.parse(line) as { log: string[] }).log)
        onProgress({ sent: 1, log: [...log] })
      }
    }
  } catch (error) {
    if (signal?.aborted) throw error
  }
  await new Promise((resolve) => setTimeout(resolve, AGAIN_MS))
}

/** Follows a job until it is over. Whoever gives up has it cancelled. */
async function followed(job: JobView, onProgress: OnProgress, signal?: AbortSignal): Promise<{ slug: string }> {
  const cancel = () => void api.DELETE('/api/v1/jobs/{job_id}', { params: { path: { job_id: job.id } } })
  signal?.addEventListener('abort', cancel, { once: true })
  let end = job
  while (!OVER.includes(end.state)) {
    await told(job.id, job.kind === 'model' ? () => onProgress({ sent: 1 }) : onProgress, signal)
    end = await expectData(api.GET('/api/v1/jobs/{job_id}', { params: { path: { job_id: job.id } }, signal }))
  }
  signal?.removeEventListener('abort', cancel)
  if (end.state === 'done') return { slug: end.result?.slug ?? '' }
  throw new ApiError(
    {
      type: 'about:blank',
      title: job.kind === 'model' ? 'The model could not be opened' : 'The libraries could not be used',
      status: 422,
      detail: end.detail || 'It was cancelled.',
      errors: end.errors ?? null,
      traceback: end.traceback ?? null,
      requirements: end.requirements?.length ? end.requirements : null,
    },
    null,
  )
}
