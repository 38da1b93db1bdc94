/** Ink on the sheet, as the server draws it: smooth, and wider where the pen is pressed. */
import type { Stroke } from '../../api/picture'

const USUAL_PRESSURE = 0.5
const PRESSURE_SHARE = 0.6

export function drawStrokes(context: CanvasRenderingContext2D, side: number, strokes: Stroke[], lineWidth: number, paper: number[]): void {
  context.fillStyle = `rgb(${paper.join(' ')})`
  context.fillRect(0, 0, side, side)
  context.lineCap = context.lineJoin = 'round'
  context.strokeStyle = context.fillStyle = isDark(paper) ? '#fff' : '#000'
  for (const stroke of strokes) {
    const [first] = stroke
    if (!first) continue
    if (stroke.length === 1) {
      context.beginPath()
      context.arc(first[0] * side, first[1] * side, widthOf(first[2], lineWidth, side) / 2, 0, 2 * Math.PI)
      context.fill()
    }
    // From the middle of one stretch to the middle of the next, bent towards the point between them.
    let from = { x: first[0] * side, y: first[1] * side }
    for (let at = 1; at < stroke.length; at += 1) {
      const [x, y, pressure] = stroke[at] ?? first
      const [beforeX, beforeY] = stroke[at - 1] ?? first
      const isLast = at === stroke.length - 1
      const to = isLast ? { x: x * side, y: y * side } : { x: ((beforeX + x) / 2) * side, y: ((beforeY + y) / 2) * side }
      context.beginPath()
      context.lineWidth = widthOf(pressure, lineWidth, side)
      context.moveTo(from.x, from.y)
      context.quadraticCurveTo(beforeX * side, beforeY * side, to.x, to.y)
      context.stroke()
      from = to
    }
  }
}

/** On dark paper the pen is white; the server draws by the same rule. */
function isDark([red = 255, green = 255, blue = 255]: number[]): boolean {
  return 0.299 * red + 0.587 * green + 0.114 * blue < 128
}

function widthOf(pressure: number, lineWidth: number, side: number): number {
  return lineWidth * side * (1 + PRESSURE_SHARE * (pressure - USUAL_PRESSURE) * 2)
}
