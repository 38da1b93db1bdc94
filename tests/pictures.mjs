// What the runtime makes of pictures, asked by tests in Python: a list of questions in, a list of what it says out.
import { asInput, asSeen, cutAndTurned, described, drawnStrokes, GroupContributions, patchGrid, withPatches } from '../frontend/runtime/dist/runtime.js'

const bytes = (text) => new Uint8Array(Buffer.from(text, 'base64'))
const text = (array) => Buffer.from(array.buffer, array.byteOffset, array.byteLength).toString('base64')
const pixels = ({ width, height, channels = 3, data }) => ({ width, height, channels, data: bytes(data) })

const TOLD = {
  drawn: ({ strokes, pen, keep }) => ({ drawn: text(drawnStrokes(strokes, pen, keep ?? undefined).data) }),
  prepared: (asked) => {
    const seen = asSeen(pixels(asked), asked.preparation)
    const input = asInput(seen, asked.preparation)
    return { seen: text(seen.data), size: [seen.height, seen.width, seen.channels], input: text(input.data), shape: input.shape }
  },
  cut: (asked) => {
    const { width, height, data } = cutAndTurned(pixels(asked), asked.cut, asked.turn)
    return { size: [height, width, 3], data: text(data) }
  },
  described: (asked) => [...described(pixels(asked))],
  patches: (asked) => {
    const grid = patchGrid(pixels(asked), asked.preparation, asked.most)
    return { size: [grid.nRows, grid.nColumns], inputs: asked.shown.map((shown) => text(withPatches(grid, Uint8Array.from(shown)))) }
  },
  game: async ({ weights, seed, at_once: atOnce, most_pairs: mostPairs }) => {
    const valueOf = (shown) => {
      const sum = weights.reduce((total, row, i) => total + row.reduce((part, weight, j) => part + weight * shown[i] * (1 + shown[j]), 0), 0)
      return 1 / (1 + Math.exp(1 - sum))
    }
    const game = await GroupContributions.begun(async (groups) => Float64Array.from(groups, valueOf), weights.length, seed, mostPairs)
    const states = [game.state]
    while (!game.isDone) {
      await game.advance(atOnce)
      states.push(game.state)
    }
    return states.map((state) => ({ ...state, contributions: [...state.contributions], covariance: [...state.covariance] }))
  },
}

let asked = ''
process.stdin.on('data', (part) => (asked += part))
process.stdin.on('end', async () => {
  const told = []
  for (const one of JSON.parse(asked)) told.push(await TOLD[one.is](one))
  process.stdout.write(JSON.stringify(told))
})
