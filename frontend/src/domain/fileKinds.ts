/** What a file is among those a demo is made of: by its first bytes, then by its name. */

export type Slot = 'model' | 'beside' | 'reference' | 'known' | 'labels' | 'preprocessor' | 'requirements'

export const SLOT_WORDS: Record<Slot, string> = {
  model: 'the model',
  beside: 'what lies beside it',
  reference: 'the reference table',
  known: 'the known cases',
  labels: 'the class names',
  preprocessor: 'the preprocessor',
  requirements: 'the libraries it asks for',
}

/** So much of a file tells what it is. */
export const HEAD_BYTES = 4096

const MODEL_NAMES = /\.(joblib|pkl|pickle|sav|skops|onnx|ubj|pmml|bst|cbm)$/i
const NETWORK_NAMES = /\.(pt2?|pth|ckpt|safetensors|keras|h5|hdf5)$/i
const CODE_NAMES = /\.py$/i
const PICTURE_NAMES = /\.(jpe?g|png|webp|gif|bmp|tiff?)/i
const TABLE_NAMES = /\.(csv|tsv|xlsx|parquet|jsonl|ndjson)$/i
const KNOWN = /known|test|held|hold|valid|eval/i
const REQUIREMENTS_NAMES = /requirement|constraints|freeze|^reqs?\b/i
/** A line like `pandas==2.1.4`, anywhere in a text. */
const PINNED = /^[A-Za-z][\w.-]*(\[[\w,-]+\])?\s*(==|>=|~=|<=)\s*\d/m
const LABELS = /label|class|names?\b/i
const PREPROCESSOR = /prep|scal|encod|transform|vectori[sz]/i

/** The one place that a file fits by what it is; null where it could be several, or none. */
export function slotOf(name: string, head: string): Slot | null {
  const kind = kindOf(name, head)
  if (kind === 'model') return PREPROCESSOR.test(name) ? 'preprocessor' : 'model'
  if (kind === 'table') return KNOWN.test(name) ? 'known' : 'reference'
  if (kind === 'pictures') return 'known'
  if (kind === 'archive') return 'beside'
  return kind
}

/** A protocol number behind the first byte, which browsers read as the euro's sign. */
function isPickle(head: string): boolean {
  return ['\u20ac', '\u0080'].includes(head[0] ?? '') && head.charCodeAt(1) >= 2 && head.charCodeAt(1) <= 5
}

/** What a zip holds shows in the names at its front; one of which nothing shows may well be of pictures. */
function packedKind(name: string, head: string): 'pictures' | 'archive' {
  const isOfFiles = /beside|weights|files|assets/i.test(name) || /\.(py|npy|npz|joblib|pkl|pt|json|csv|txt|onnx|parquet|toml|ya?ml)/i.test(head.slice(30, 200))
  return isOfFiles && !PICTURE_NAMES.test(head) ? 'archive' : 'pictures'
}

function kindOf(name: string, head: string): 'model' | 'table' | 'pictures' | 'archive' | 'labels' | 'requirements' | null {
  if (head.startsWith('PAR1')) return 'table'
  if (NETWORK_NAMES.test(name)) return 'model'
  if (head.startsWith('PK')) return /\.xlsx$/i.test(name) || head.includes('[Content_Types].xml') ? 'table' : /\.skops$/i.test(name) ? 'model' : packedKind(name, head)
  if (/^tree\r?\nversion=/.test(head)) return 'model'
  if (/^\s*\{[^]{0,200}"learner"/.test(head)) return 'model'
  if (/<PMML[\s>]/.test(head)) return 'model'
  if (CODE_NAMES.test(name)) return 'model'
  if (isPickle(head) || MODEL_NAMES.test(name)) return 'model'
  if (TABLE_NAMES.test(name)) return 'table'
  if (/\.txt$/i.test(name) && (REQUIREMENTS_NAMES.test(name) || PINNED.test(head.replace(/\0/g, '')))) return 'requirements'
  if (/\.txt$/i.test(name)) return LABELS.test(name) || !/[,;\t]/.test(head.split('\n', 1)[0] ?? '') ? 'labels' : 'table'
  if (/\.json$/i.test(name)) return 'table'
  return null
}

/** Files into places, each place once: of two tables the second holds the known cases, of two models one prepares. */
export function assign<File extends { name: string }>(files: { file: File; head: string }[], taken: ReadonlySet<Slot>): { slots: Map<Slot, File>; left: File[] } {
  const slots = new Map<Slot, File>()
  const left: File[] = []
  const isFree = (slot: Slot) => !slots.has(slot) && !taken.has(slot)
  const hasNetwork = files.some(({ file }) => NETWORK_NAMES.test(file.name))
  for (const { file, head } of files) {
    // Beside a network a Python file has its classes.
    const first = hasNetwork && CODE_NAMES.test(file.name) ? 'beside' : slotOf(file.name, head)
    const second: Partial<Record<Slot, Slot>> = { reference: 'known', known: 'reference', model: 'preprocessor', preprocessor: 'model' }
    const place = first && (isFree(first) ? first : second[first] && isFree(second[first]) ? second[first] : null)
    if (place) slots.set(place, file)
    else left.push(file)
  }
  // A preprocessor alone is the model: nothing else could be.
  const alone = slots.get('preprocessor')
  if (alone && !slots.has('model') && !taken.has('model')) {
    slots.delete('preprocessor')
    slots.set('model', alone)
  }
  return { slots, left }
}
