/** Asks what answers: in a thread of its own, or where a browser makes none, in the page. */
import type { Proof } from '../src/visitor/page/proof'
import type { Asked, Told, Watch } from './requests'
import type { Blocks } from './content'
import type { Question, Reply, Served } from './served'

export interface Asking {
  ask: (asked: Asked, signal: AbortSignal) => Promise<Told>
  watch: Watch
  prove: (onProgress: (share: number) => void) => Promise<Proof>
  /** How many cases came along with what the server said of them. */
  nReference: number
  /** What the page is told of itself. */
  page: Told
  /** Settles once the model is here too. Rejects with `NotOpened`. */
  whole: Promise<void>
  close: () => void
}

/** What was opened is not what was written; `message` says what is wrong, empty where it cannot be told. */
export class NotOpened extends Error {
  override name = 'NotOpened'
}

/** How to serve in the page itself. */
export interface Serving {
  serve: (blocks: Blocks) => Promise<Served>
  damageOf: (error: unknown) => string | null
}

interface Waiting {
  take: (reply: Reply) => void
  fail: (error: Error) => void
}

/** Time for the page to be drawn before something long is worked out in it. */
const DRAWN_MS = 16

/** Open the blocks with a thread that serves, or in the page. Throws `NotOpened`. */
export async function openBlocks(makeThread: () => Worker, serving: () => Promise<Serving>, blocks: Blocks): Promise<Asking> {
  let thread
  try {
    thread = await startedThread(makeThread())
  } catch {
    return inPage(await serving(), blocks)
  }
  return inThread(thread, blocks)
}

/** Settles once the thread runs: some browsers make it, and let it fail. */
function startedThread(thread: Worker): Promise<Worker> {
  return new Promise<Worker>((settle, fail) => {
    thread.onmessage = () => settle(thread)
    thread.onerror = () => fail(new Error('no thread'))
  })
}

async function inThread(thread: Worker, blocks: Blocks): Promise<Asking> {
  const waiting = new Map<number, Waiting>()
  const post = (question: Question) => thread.postMessage(question)
  const { nReference, page } = await new Promise<{ nReference: number; page: Told }>((settle, fail) => {
    thread.onmessage = ({ data }: MessageEvent<Reply>) => ('isOpen' in data && data.isOpen ? settle(data) : fail(new NotOpened(('why' in data && data.why) || '')))
    thread.onerror = () => fail(new NotOpened(''))
    post({ blocks })
  })
  let closeWhole: (error: NotOpened | null) => void = () => undefined
  const whole = new Promise<void>((settle, fail) => (closeWhole = (error) => (error ? fail(error) : settle())))
  thread.onmessage = ({ data }: MessageEvent<Reply>) => {
    if ('isWhole' in data) closeWhole(data.isWhole ? null : new NotOpened(data.why ?? ''))
    else if ('id' in data) waiting.get(data.id)?.take(data)
  }
  let last = 0
  const asked = <Result>(question: (id: number) => Question, read: (reply: Reply) => Result | undefined, signal?: AbortSignal) =>
    new Promise<Result>((settle, fail) => {
      last += 1
      const id = last
      signal?.addEventListener('abort', () => waiting.has(id) && post({ id, isOver: true }), { once: true })
      const take = (reply: Reply) => {
        const result = read(reply)
        if (result === undefined && !('failed' in reply)) return
        waiting.delete(id)
        if (result === undefined) fail(new Error('the thread failed'))
        else settle(result)
      }
      waiting.set(id, { take, fail })
      post(question(id))
    })
  thread.onerror = () => {
    closeWhole(new NotOpened(''))
    waiting.forEach(({ fail }) => fail(new Error('the thread ended')))
  }
  return {
    nReference,
    page,
    whole,
    close: () => thread.terminate(),
    ask: (about, signal) => asked((id) => ({ id, asked: about }), (reply) => ('told' in reply ? reply.told : undefined), signal),
    watch: (about, onLine, signal) =>
      asked(
        (id) => ({ id, watched: about }),
        (reply) => {
          if ('line' in reply) onLine(reply.line)
          return 'watched' in reply ? reply.watched : undefined
        },
        signal,
      ),
    prove: (onProgress) =>
      asked(
        (id) => ({ id, proves: true }),
        (reply) => {
          if ('share' in reply) onProgress(reply.share)
          return 'proof' in reply ? reply.proof : undefined
        },
      ),
  }
}

async function inPage({ serve, damageOf }: Serving, blocks: Blocks): Promise<Asking> {
  let served: Served
  try {
    served = await serve(blocks)
    await served.whole
  } catch (error) {
    throw new NotOpened(damageOf(error) ?? '')
  }
  const ask = async (asked: Asked, signal: AbortSignal) => {
    if (asked.query.with) await new Promise((go) => setTimeout(go, DRAWN_MS))
    return served.ask(asked, () => signal.aborted)
  }
  const watch: Watch = async (asked, onLine, signal) => (await served.watch?.(asked, onLine, () => signal.aborted)) ?? null
  return { ask, watch, prove: served.prove, nReference: served.nReference, page: served.page, whole: Promise.resolve(), close: () => undefined }
}
