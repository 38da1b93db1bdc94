/** Strokes of a pen as a picture: `core/pictures/strokes.py` once more, to the bit. */
import { drawEllipse, drawLine, type Sheet } from './ink'
import { roundedToEven, type Pixels } from './pixels'
import { resized } from './resizing'

/** From 0 to 1, y downwards; behind them how hard the pen was pressed, where that is known. */
export type Point = readonly number[]
export type Stroke = readonly Point[]

export interface Pen {
  /** As a share of the side. */
  line_width: number
  centred: boolean
  /** Red, green and blue. */
  paper: readonly number[]
}

const FINER = 4
const DRAWN_SIDE = 192
const USUAL_PRESSURE = 0.5
const PRESSURE_SHARE = 0.6
const FILLED_SHARE = 0.8
const POINTS_BETWEEN = 4
const BRIGHTNESS = [0.299, 0.587, 0.114]
const DARK_PAPER = 128

/** Lines on paper: black ones, or white ones on dark paper. `keep` says which strokes are drawn; all of them say where the middle is. */
export function drawnStrokes(strokes: readonly Stroke[], { line_width: lineWidth, centred: isCentred, paper }: Pen, keep?: readonly boolean[]): Pixels {
  const smooth = strokes.map((stroke) => smoothed(stroke.map(pointOf)))
  const placedStrokes = isCentred ? centred(smooth, lineWidth) : smooth
  const side = DRAWN_SIDE * FINER
  const sheet: Sheet = { side, data: new Uint8Array(side * side) }
  placedStrokes.forEach((stroke, at) => {
    if (keep === undefined || keep[at]) draw(sheet, stroke, lineWidth)
  })
  const mask = resized({ width: side, height: side, channels: 1, data: sheet.data }, DRAWN_SIDE, DRAWN_SIDE, 'box').data
  return onPaper(mask, paper)
}

function pointOf(point: Point): number[] {
  const pressure = point.length > 2 ? point[2] : USUAL_PRESSURE
  return [point[0], point[1], Math.min(1, Math.max(0, pressure)) || USUAL_PRESSURE]
}

/** More points on the uniform Catmull-Rom spline through these (Catmull and Rom 1974). */
function smoothed(points: number[][]): number[][] {
  if (points.length < 3) return points
  const out: number[][] = []
  for (let at = 0; at + 1 < points.length; at++) {
    const [before, here, there, after] = [points[Math.max(at - 1, 0)], points[at], points[at + 1], points[Math.min(at + 2, points.length - 1)]]
    for (let step = 0; step < POINTS_BETWEEN; step++) {
      const share = step / POINTS_BETWEEN
      out.push(
        here.map(
          (own, k) =>
            0.5 *
            (2 * own + (there[k] - before[k]) * share + (2 * before[k] - 5 * own + 4 * there[k] - after[k]) * share ** 2 + (3 * own - before[k] - 3 * there[k] + after[k]) * share ** 3),
        ),
      )
    }
  }
  return [...out, points[points.length - 1]]
}

/** Moved to the middle, and made to fill most of the paper. */
function centred(strokes: number[][][], lineWidth: number): number[][][] {
  const every = strokes.flat()
  const [low, high] = [Math.min, Math.max].map((end) => [0, 1].map((axis) => every.reduce((found, point) => end(found, point[axis]), every[0][axis])))
  const span = Math.max(high[0] - low[0], high[1] - low[1])
  const share = span > lineWidth ? (FILLED_SHARE - lineWidth) / span : 1
  const middle = [0, 1].map((axis) => (low[axis] + high[axis]) / 2)
  return strokes.map((stroke) => stroke.map(([x, y, pressure]) => [(x - middle[0]) * share + 0.5, (y - middle[1]) * share + 0.5, pressure]))
}

/** Round dots close enough together to be a line whose width follows the pressure. */
function draw(sheet: Sheet, stroke: number[][], lineWidth: number): void {
  const inside = (value: number) => Math.min(2, Math.max(-1, value)) * sheet.side
  let last: number[] | null = null
  for (const [ownX, ownY, pressure] of stroke) {
    const [x, y, width] = [inside(ownX), inside(ownY), lineWidth * sheet.side * (1 + PRESSURE_SHARE * (pressure - USUAL_PRESSURE) * 2)]
    const radius = Math.max(width / 2, 0.5)
    drawEllipse(sheet, x - radius, y - radius, x + radius, y + radius)
    if (last && (last[0] !== x || last[1] !== y)) drawLine(sheet, last[0], last[1], x, y, Math.max(1, roundedToEven((last[2] + width) / 2)))
    last = [x, y, width]
  }
}

function onPaper(mask: Uint8Array, paper: readonly number[]): Pixels {
  const isDark = paper[0] * BRIGHTNESS[0] + paper[1] * BRIGHTNESS[1] + paper[2] * BRIGHTNESS[2] < DARK_PAPER
  const ink = isDark ? 255 : 0
  const data = new Uint8Array(3 * mask.length)
  for (let at = 0, to = 0; at < mask.length; at++) {
    for (let channel = 0; channel < 3; channel++, to++) {
      const sum = paper[channel] * (255 - mask[at]) + ink * mask[at] + 128
      data[to] = ((sum >> 8) + sum) >> 8
    }
  }
  return { width: DRAWN_SIDE, height: DRAWN_SIDE, channels: 3, data }
}
