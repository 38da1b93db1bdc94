/** What answers, beside the page where a browser lets it: opened once, it is told what is asked and says what comes of it. */
import { gunzipSync } from 'fflate'
import { ModelDamaged } from '../runtime/errors'
import { CompiledModel } from '../runtime/model'
import type { Proof } from '../src/visitor/page/proof'
import { Answerer } from './answering/answerer'
import { FileDamaged, readFile } from './content'
import { prove } from './proof'
import { answered, type Asked, type Told } from './requests'

/** The file's two blocks of data, as they stand in it, and its mark. */
export interface Blocks {
  content: string
  model: string
  mark: string
}

export interface Served {
  ask: (asked: Asked) => Told
  prove: (onProgress: (share: number) => void) => Promise<Proof>
  /** What is long to work out, before anybody asks for it. */
  warmUp: () => void
}

/** What comes in: the file's blocks first, then one question after the other. */
export type Question = { blocks: Blocks } | { id: number; asked: Asked } | { id: number; proves: true }
/** What goes out: that it is open or why not, and what came of each question. */
export type Reply = { isOpen: true } | { isOpen: false; why: string | null } | { id: number; told: Told } | { id: number; share: number } | { id: number; proof: Proof } | { id: number; failed: true }

/** Throws `FileDamaged` or `ModelDamaged`. */
export function serve({ content: packed, model: packedModel, mark }: Blocks): Served {
  const { content, model } = readFile({ content: packed, model: packedModel }, mark, gunzipSync)
  const answerer = new Answerer(content, new CompiledModel(model))
  return {
    ask: (asked) => answered(content, answerer, mark, asked),
    prove: (onProgress) => prove(answerer, content.proof, onProgress),
    warmUp: () => void content.proof.slice(0, 1).map(({ row, of }) => of !== null && answerer.contributions(row, of)),
  }
}

/** What is wrong with a file, in a sentence; null for anything else. */
export function damageOf(error: unknown): string | null {
  if (!(error instanceof FileDamaged) && !(error instanceof ModelDamaged)) return null
  const sentence = error.message.charAt(0).toUpperCase() + error.message.slice(1)
  return sentence.endsWith('.') ? sentence : `${sentence}.`
}

/** Serve whoever sends messages to this thread. */
export function serveMessages(scope: { onmessage: ((event: MessageEvent<Question>) => void) | null; postMessage: (reply: Reply) => void }): void {
  let served: Served | null = null
  const open = (blocks: Blocks) => {
    try {
      served = serve(blocks)
      scope.postMessage({ isOpen: true })
      served.warmUp()
    } catch (error) {
      scope.postMessage({ isOpen: false, why: damageOf(error) })
    }
  }
  const reply = async (question: Exclude<Question, { blocks: Blocks }>) => {
    const { id } = question
    try {
      if ('asked' in question) scope.postMessage({ id, told: (served as Served).ask(question.asked) })
      else scope.postMessage({ id, proof: await (served as Served).prove((share) => scope.postMessage({ id, share })) })
    } catch {
      scope.postMessage({ id, failed: true })
    }
  }
  scope.onmessage = ({ data }) => ('blocks' in data ? open(data.blocks) : void reply(data))
}
