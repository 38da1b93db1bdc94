import { zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { knownPicturesOf, missesOf, tallied, type KnownAnswer } from './knownPictures'

const bytes = new Uint8Array([1, 2, 3])

function archive(paths: string[]): File {
  return new File([zipSync(Object.fromEntries(paths.map((path) => [path, bytes])))], 'known.zip')
}

function answer(outcome: string, said: string | null, probability: number): KnownAnswer {
  return { picture: { name: 'x.jpg', outcome, file: new Blob() }, said, probability, problem: '' }
}

describe('known pictures', () => {
  it('are called after their folders, without what systems put beside them', async () => {
    const found = await knownPicturesOf([archive(['tiles/even/1.jpg', 'tiles/even/.DS_Store.png', '__MACOSX/even/1.jpg', 'crazing/2.PNG', 'read.me'])])
    expect(found.map(({ name, outcome }) => `${outcome}/${name}`)).toEqual(['even/1.jpg', 'crazing/2.PNG'])
    expect(found[0]?.file.size).toBe(3)
  })
  it('are refused in a sentence where there are none, or none in folders', async () => {
    await expect(knownPicturesOf([archive(['read.me'])])).rejects.toThrow('no pictures in it')
    await expect(knownPicturesOf([archive(['1.jpg'])])).rejects.toThrow('lie in no folder')
    await expect(knownPicturesOf([new File([bytes], 'known.zip')])).rejects.toThrow('cannot be read')
  })
  it('are counted class by class, the worst first, and the surest mistakes lead the wall', () => {
    const answers = [answer('even', 'even', 0.9), answer('even', 'crazing', 0.6), answer('crazing', 'crazing', 1), answer('even', 'pinholes', 0.8)]
    expect(tallied(answers)).toEqual([
      { outcome: 'even', right: 1, all: 3 },
      { outcome: 'crazing', right: 1, all: 1 },
    ])
    expect(missesOf(answers).map((miss) => miss.said)).toEqual(['pinholes', 'crazing'])
  })
})
