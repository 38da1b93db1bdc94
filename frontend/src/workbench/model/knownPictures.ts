/** Known pictures out of a folder or a zip archive: folders are named after what their pictures show. */
import { unzip } from 'fflate'

export interface KnownPicture {
  name: string
  /** What it shows: the name of its folder. */
  outcome: string
  file: Blob
}

const ENDINGS = /\.(jpe?g|png|webp|gif|bmp|tiff?)$/i
const MOST_PICTURES = 2000

/** @throws Error with a sentence, if there are none. */
export async function knownPicturesOf(files: File[]): Promise<KnownPicture[]> {
  const pictures = await picturesOf(files)
  if (pictures.some((picture) => !picture.outcome)) throw new Error('Some pictures lie in no folder. The folder’s name says what a picture shows.')
  if (pictures.length > MOST_PICTURES) throw new Error(`There are ${pictures.length} pictures; the limit is ${MOST_PICTURES}. Choose fewer.`)
  return pictures
}

/**
 * All pictures among some files, in a folder, or in a zip archive.
 *
 * @throws Error with a sentence, if there are none.
 */
export async function picturesOf(files: File[]): Promise<KnownPicture[]> {
  const [first] = files
  const isArchive = files.length === 1 && first && /\.zip$/i.test(first.name)
  const found = isArchive ? await unpacked(first) : files.map((file) => ({ path: file.webkitRelativePath || file.name, file: file as Blob }))
  const pictures = found
    .filter(({ path }) => ENDINGS.test(path) && !path.split('/').some((part) => part.startsWith('.') || part === '__MACOSX'))
    .map(({ path, file }) => ({ name: path.split('/').at(-1) ?? path, outcome: path.split('/').at(-2) ?? '', file }))
  if (!pictures.length) throw new Error('There are no pictures in it. Choose pictures, a folder of them, or a zip of it.')
  return pictures
}

async function unpacked(archive: File): Promise<{ path: string; file: Blob }[]> {
  const content = new Uint8Array(await archive.arrayBuffer())
  return new Promise((resolve, reject) => {
    unzip(content, { filter: (entry) => ENDINGS.test(entry.name) }, (error, entries) => {
      if (error) reject(new Error('The archive cannot be read. Zip the folders once more.'))
      else resolve(Object.entries(entries).map(([path, bytes]) => ({ path, file: new Blob([bytes as Uint8Array<ArrayBuffer>]) })))
    })
  })
}

export interface KnownAnswer {
  picture: KnownPicture
  /** The class the model says, and how sure it is; null if it gave no answer. */
  said: string | null
  probability: number
  problem: string
}

export interface Tally {
  outcome: string
  right: number
  all: number
}

/** How many of each class are right, the worst first. */
export function tallied(answers: KnownAnswer[]): Tally[] {
  const tallies = new Map<string, Tally>()
  for (const { picture, said } of answers) {
    const tally = tallies.get(picture.outcome) ?? { outcome: picture.outcome, right: 0, all: 0 }
    tallies.set(picture.outcome, { ...tally, right: tally.right + Number(said === picture.outcome), all: tally.all + 1 })
  }
  return [...tallies.values()].sort((one, other) => one.right / one.all - other.right / other.all)
}

/** What was not right, the surest mistakes first: those teach most. */
export function missesOf(answers: KnownAnswer[]): KnownAnswer[] {
  return answers.filter(({ picture, said }) => said !== picture.outcome).sort((one, other) => other.probability - one.probability)
}
