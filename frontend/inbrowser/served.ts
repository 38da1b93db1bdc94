/** What answers, beside the page where a browser lets it: opened once, it is told what is asked and says what comes of it. */
import { ModelDamaged } from '../runtime/errors'
import type { Proof } from '../src/visitor/page/proof'
import { othersFirst, type IsOver } from './breath'
import { Answerer } from './answering/answerer'
import { FileDamaged, readContent, readModel, type Blocks, type Content } from './content'
import { prove, type Provable } from './proof'
import { answered, pageOf, type Answers, type Asked, type Told } from './requests'

export interface Served {
  ask: (asked: Asked, isOver: IsOver) => Promise<Told>
  /** What is told line by line, the last once all is known or `isOver`; ends with what went wrong before the first. */
  watch?: (asked: Asked, onLine: (line: string) => void, isOver: IsOver) => Promise<Told | null>
  prove: (onProgress: (share: number) => void) => Promise<Proof>
  nReference: number
  /** What the page is told of itself, at once. */
  page: Told
  /** Settles once the model is here too; rejects where it is damaged or cannot be run. What is asked meanwhile waits. */
  whole: Promise<unknown>
  /** What is long to work out, before anybody asks for it. */
  warmUp: () => void
}

/** What comes in: the file's blocks first, then one question after the other. */
export type Question = { blocks: Blocks } | { id: number; asked: Asked } | { id: number; watched: Asked } | { id: number; isOver: true } | { id: number; proves: true }
/** What goes out: that it is open or why not, and what came of each question. */
export type Reply = { isOpen: true; nReference: number; page: Told } | { isOpen: false; why: string | null } | { isWhole: true } | { isWhole: false; why: string | null } | { id: number; told: Told } | { id: number; line: string } | { id: number; watched: Told | null } | { id: number; share: number } | { id: number; proof: Proof } | { id: number; failed: true }

/** Throws `FileDamaged`. The model is read while the page is drawn. */
export async function serve(blocks: Blocks): Promise<Served> {
  const content = await readContent(blocks)
  const answerer = othersFirst()
    .then(() => readModel(blocks, content))
    .then((model) => new Answerer(content, model))
  return {
    ...servedBy(content, blocks.mark, answerer),
    warmUp: () => content.proof.slice(0, 1).forEach(({ row, of }) => of !== null && void answerer.then((own) => own.contributions(row, of))),
  }
}

/** The content at once, answers once the model is there that gives them. */
export function servedBy(content: Content, mark: string, answerer: Promise<Answers & Provable>): Omit<Served, 'warmUp'> {
  return {
    ask: async (asked, isOver) => answered(content, await answerer, mark, asked, isOver),
    nReference: content.proof.length,
    page: pageOf(content, mark),
    whole: answerer,
    prove: async (onProgress) => prove(await answerer, content.proof, onProgress),
  }
}

/** What is wrong with a file, in a sentence; null for anything else. */
export function damageOf(error: unknown): string | null {
  if (!(error instanceof FileDamaged) && !(error instanceof ModelDamaged)) return null
  const sentence = error.message.charAt(0).toUpperCase() + error.message.slice(1)
  return sentence.endsWith('.') ? sentence : `${sentence}.`
}

/** When nobody has asked for so long, what is long to work out is worked out, once. */
const IDLE_MS = 400

interface Scope {
  onmessage: ((event: MessageEvent<Question>) => void) | null
  postMessage: (reply: Reply) => void
}

/** Serve whoever sends messages to this thread. */
export function serveMessages(scope: Scope, serving: (blocks: Blocks) => Promise<Served>): void {
  let served: Served | null = null
  const over = new Set<number>()
  let [isWhole, isWarm] = [false, false]
  let idle: ReturnType<typeof setTimeout> | undefined
  const warmUpWhenIdle = () => {
    clearTimeout(idle)
    if (!isWhole || isWarm) return
    idle = setTimeout(() => {
      isWarm = true
      served?.warmUp()
    }, IDLE_MS)
  }
  const open = async (blocks: Blocks) => {
    try {
      served = await serving(blocks)
      scope.postMessage({ isOpen: true, nReference: served.nReference, page: served.page })
    } catch (error) {
      return scope.postMessage({ isOpen: false, why: damageOf(error) })
    }
    try {
      await served.whole
      isWhole = true
      scope.postMessage({ isWhole: true })
      warmUpWhenIdle()
    } catch (error) {
      scope.postMessage({ isWhole: false, why: damageOf(error) })
    }
  }
  const reply = async (question: Exclude<Question, { blocks: Blocks }>) => {
    const { id } = question
    warmUpWhenIdle()
    try {
      if ('isOver' in question) over.add(id)
      else if ('asked' in question) scope.postMessage({ id, told: await (served as Served).ask(question.asked, () => over.has(id)) })
      else if ('watched' in question) scope.postMessage({ id, watched: (await served?.watch?.(question.watched, (line) => scope.postMessage({ id, line }), () => over.has(id))) ?? null })
      else scope.postMessage({ id, proof: await (served as Served).prove((share) => scope.postMessage({ id, share })) })
    } catch {
      scope.postMessage({ id, failed: true })
    }
    if (!('isOver' in question)) over.delete(id)
  }
  scope.onmessage = ({ data }) => ('blocks' in data ? void open(data.blocks) : void reply(data))
}
