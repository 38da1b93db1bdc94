/** Asks what answers: in a thread of its own, or where a browser makes none of a file's script, in the page. */
import type { Proof } from '../src/visitor/page/proof'
import type { Asked, Told } from './requests'
import type { Blocks } from './content'
import type { Question, Reply, Served } from './served'

export interface Asking {
  ask: (asked: Asked) => Promise<Told>
  prove: (onProgress: (share: number) => void) => Promise<Proof>
}

/** What was opened is not what was written; `message` says what is wrong, empty where it cannot be told. */
export class NotOpened extends Error {
  override name = 'NotOpened'
}

interface Serving {
  serve: (blocks: Blocks) => Promise<Served>
  damageOf: (error: unknown) => string | null
}

interface Waiting {
  take: (reply: Reply) => void
  fail: (error: Error) => void
}

/** Time for the page to be drawn before something long is worked out in it. */
const DRAWN_MS = 16

/** Open a file's blocks with the script that answers. Throws `NotOpened`. */
export async function openBlocks(script: string, blocks: Blocks): Promise<Asking> {
  let thread
  try {
    thread = await startedThread(script)
  } catch {
    return inPage(blocks)
  }
  return inThread(thread, blocks)
}

/** Settles once the thread runs: some browsers make it, and let it fail. */
function startedThread(script: string): Promise<Worker> {
  const address = URL.createObjectURL(new Blob([`${script};postMessage('started')`], { type: 'text/javascript' }))
  const thread = new Worker(address)
  return new Promise<Worker>((settle, fail) => {
    thread.onmessage = () => settle(thread)
    thread.onerror = () => fail(new Error('no thread'))
  }).finally(() => URL.revokeObjectURL(address))
}

async function inThread(thread: Worker, blocks: Blocks): Promise<Asking> {
  const waiting = new Map<number, Waiting>()
  const post = (question: Question) => thread.postMessage(question)
  await new Promise<void>((settle, fail) => {
    thread.onmessage = ({ data }: MessageEvent<Reply>) => ('isOpen' in data && !data.isOpen ? fail(new NotOpened(data.why ?? '')) : settle())
    thread.onerror = () => fail(new NotOpened(''))
    post({ blocks })
  })
  thread.onmessage = ({ data }: MessageEvent<Reply>) => 'id' in data && waiting.get(data.id)?.take(data)
  let last = 0
  const asked = <Result>(question: (id: number) => Question, read: (reply: Reply) => Result | undefined) =>
    new Promise<Result>((settle, fail) => {
      last += 1
      const id = last
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
  thread.onerror = () => waiting.forEach(({ fail }) => fail(new Error('the thread ended')))
  return {
    ask: (about) => asked((id) => ({ id, asked: about }), (reply) => ('told' in reply ? reply.told : undefined)),
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

async function inPage(blocks: Blocks): Promise<Asking> {
  const { serve, damageOf } = (globalThis as unknown as { plainWindowServing: Serving }).plainWindowServing
  let served: Served
  try {
    served = await serve(blocks)
  } catch (error) {
    throw new NotOpened(damageOf(error) ?? '')
  }
  const ask = async (asked: Asked) => {
    if (asked.query.with) await new Promise((go) => setTimeout(go, DRAWN_MS))
    return served.ask(asked)
  }
  return { ask, prove: served.prove }
}
