/**
 * A sheet on which dots and lines are drawn in whole pixels, to the bit as Pillow draws them: filled ellipses by Bresenham's
 * rule on a grid of halves, wide lines as polygons filled line by line with edges in single precision.
 */

export interface Sheet {
  side: number
  /** 255 where there is ink. */
  data: Uint8Array
}

/** Between two numbers of which one is the nearest whole one, as Pillow has it: away from nothing, or towards it. */
const roundUp = (value: number) => (value >= 0 ? Math.floor(value + 0.5) : -Math.floor(Math.abs(value) + 0.5))
const roundDown = (value: number) => (value >= 0 ? Math.ceil(value - 0.5) : -Math.ceil(Math.abs(value) - 0.5))
const { fround, trunc } = Math
const half = (value: number) => trunc(value / 2)

/** From `from` to `to`, both drawn. */
function across({ side, data }: Sheet, from: number, y: number, to: number): void {
  if (y < 0 || y >= side || from >= side || to < 0) return
  data.fill(255, y * side + Math.max(from, 0), y * side + Math.min(to, side - 1) + 1)
}

function dot({ side, data }: Sheet, x: number, y: number): void {
  if (x >= 0 && x < side && y >= 0 && y < side) data[y * side + x] = 255
}

/** A filled ellipse within these corners, which are cut off to whole numbers. */
export function drawEllipse(sheet: Sheet, left: number, top: number, right: number, bottom: number): void {
  const [x, y] = [trunc(left), trunc(top)]
  const [width, height] = [trunc(right) - x, trunc(bottom) - y]
  if (width < 0 || height < 0) return
  for (const [reach, down] of quarter(width, height)) {
    for (const row of down > 0 ? [down, -down] : [down]) across(sheet, x + half(-reach + width), y + half(row + height), x + half(reach + width))
  }
}

/** How far the upper right quarter of an ellipse reaches in each row, both in halves of a pixel. */
function quarter(a: number, b: number): [number, number][] {
  const [a2, b2] = [a * a, b * b]
  const off = (x: number, y: number) => Math.abs(a2 * y * y + b2 * x * x - a2 * b2)
  const rows: [number, number][] = []
  let [x, y] = [a, b % 2]
  for (;;) {
    if (rows.length === 0 || rows[rows.length - 1][1] < y) rows.push([x, y])
    if (x === a % 2 && y === b) return rows
    let [nextX, nextY, least] = [x, y + 2, off(x, y + 2)]
    if (x > 1) {
      for (const [otherX, otherY] of [[x - 2, y + 2], [x - 2, y]]) {
        const own = off(otherX, otherY)
        if (least > own) [nextX, nextY, least] = [otherX, otherY, own]
      }
    }
    ;[x, y] = [nextX, nextY]
  }
}

/** A line between two points, which are cut off to whole numbers. */
export function drawLine(sheet: Sheet, fromX: number, fromY: number, toX: number, toY: number, width: number): void {
  const [x0, y0, x1, y1] = [trunc(fromX), trunc(fromY), trunc(toX), trunc(toY)]
  if (width === 1) {
    thinLine(sheet, x0, y0, x1, y1)
    dot(sheet, x1, y1)
    return
  }
  const [dx, dy] = [x1 - x0, y1 - y0]
  if (dx === 0 && dy === 0) {
    dot(sheet, x0, y0)
    return
  }
  const length = Math.hypot(dx, dy)
  const [most, least] = [roundUp((width - 1) / 2) / length, roundDown((width - 1) / 2) / length]
  const [dxLeast, dxMost, dyLeast, dyMost] = [roundDown(least * dy), roundDown(most * dy), roundDown(least * dx), roundDown(most * dx)]
  fillPolygon(sheet, [
    [x0 - dxLeast, y0 + dyMost],
    [x1 - dxLeast, y1 + dyMost],
    [x1 + dxMost, y1 - dyLeast],
    [x0 + dxMost, y0 - dyLeast],
  ])
}

/** Bresenham's line; its last point is left out. */
function thinLine(sheet: Sheet, x0: number, y0: number, x1: number, y1: number): void {
  const [dx, dy, xs, ys] = [Math.abs(x1 - x0), Math.abs(y1 - y0), x1 < x0 ? -1 : 1, y1 < y0 ? -1 : 1]
  const isFlat = dx > dy
  const [long, short] = isFlat ? [dx, dy] : [dy, dx]
  let [x, y, over] = [x0, y0, 2 * short - long]
  for (let at = 0; at < long; at++) {
    dot(sheet, x, y)
    if (short > 0 && over >= 0) {
      if (isFlat) y += ys
      else x += xs
      over -= 2 * long
    }
    over += 2 * short
    if (isFlat) x += xs
    else y += ys
  }
}

interface Edge {
  x0: number
  y0: number
  ymin: number
  ymax: number
  dx: number
}

function fillPolygon(sheet: Sheet, corners: [number, number][]): void {
  const edges: Edge[] = []
  let [ymin, ymax] = [sheet.side - 1, 0]
  corners.forEach(([x0, y0], at) => {
    const [x1, y1] = corners[(at + 1) % corners.length]
    ymin = Math.min(ymin, y0, y1)
    ymax = Math.max(ymax, y0, y1)
    if (y0 === y1) across(sheet, Math.min(x0, x1), y0, Math.max(x0, x1))
    else edges.push({ x0, y0, ymin: Math.min(y0, y1), ymax: Math.max(y0, y1), dx: fround(fround(x1 - x0) / (y1 - y0)) })
  })
  ymax = Math.min(ymax, sheet.side)
  for (let y = Math.max(ymin, 0); y <= ymax; y++) {
    const crossings = crossingsOf(edges, y, ymax).sort((a, b) => a - b)
    for (let at = 1; at < crossings.length; at += 2) across(sheet, roundUp(crossings[at - 1]), y, roundDown(crossings[at]))
  }
}

const crossing = ({ x0, y0, dx }: Edge, y: number) => fround(fround((y - y0) * dx) + x0)

/** Where the edges cross a line; corners that would come apart are joined. */
function crossingsOf(edges: Edge[], y: number, last: number): number[] {
  const found: number[] = []
  edges.forEach((edge, at) => {
    if (y < edge.ymin || y > edge.ymax) return
    const x = crossing(edge, y)
    if (y === edge.ymax && y < last) found.push(x, x)
    else found.push((y === edge.ymin || y === edge.ymax) && edge.dx !== 0 ? joined(edges, at, y, x) : x)
  })
  return found
}

/** Where an edge crosses a line that it ends at, moved to the corner that it makes there with another one. */
function joined(edges: Edge[], at: number, y: number, x: number): number {
  const edge = edges[at]
  const next = y + (y === edge.ymax ? -1 : 1)
  for (const other of edges.slice(0, at)) {
    if ((y !== other.ymin && y !== other.ymax) || other.dx === 0 || roundUp(x) !== roundUp(crossing(other, y))) continue
    if (next < other.ymin || next > other.ymax) continue
    const [own, others] = [crossing(edge, next), crossing(other, next)]
    if (x > fround(own + 1) && x > fround(others + 1)) return roundUp(Math.max(own, others)) + 1
    if (x < fround(own - 1) && x < fround(others - 1)) return roundUp(Math.min(own, others)) - 1
    return x
  }
  return x
}
