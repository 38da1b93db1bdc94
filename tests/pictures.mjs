// What the runtime makes of pictures, asked by tests in Python: a line of JSON in, a line out.
import { asInput, asSeen, drawnStrokes } from '../frontend/runtime/dist/runtime.js'

const bytes = (text) => new Uint8Array(Buffer.from(text, 'base64'))
const text = (array) => Buffer.from(array.buffer, array.byteOffset, array.byteLength).toString('base64')

let asked = ''
process.stdin.on('data', (part) => (asked += part))
process.stdin.on('end', () => {
  const told = JSON.parse(asked).map(({ width, height, data, preparation, strokes, pen, keep }) => {
    if (strokes) return { drawn: text(drawnStrokes(strokes, pen, keep ?? undefined).data) }
    const seen = asSeen({ width, height, channels: 3, data: bytes(data) }, preparation)
    const input = asInput(seen, preparation)
    return { seen: text(seen.data), size: [seen.height, seen.width, seen.channels], input: text(input.data), shape: input.shape }
  })
  process.stdout.write(JSON.stringify(told))
})
