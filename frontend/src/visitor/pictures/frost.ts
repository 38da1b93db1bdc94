/** Where the model looked, as glass: clear where it mattered, frosted where it did not, hatched where it spoke against. */
import type { PictureField } from '../../api/client'
import type { Where } from '../../api/picture'
import { strengths } from '../../domain/regions'

/** A part of the picture, in shares of its sides; more than the picture where the model sees a border. */
export interface Box {
  left: number
  top: number
  width: number
  height: number
}

/** What of a picture of this shape the model sees: all of it, its middle, or more than it. */
export function seenBox({ fit, width, height, own_size }: PictureField['preparation'], ratio: number): Box {
  if (own_size) return { left: 0, top: 0, width: 1, height: 1 }
  const wanted = width / height
  const [across, down] = fit === 'stretch' ? [1, 1] : fit === 'crop' ? [Math.min(1, wanted / ratio), Math.min(1, ratio / wanted)] : [Math.max(1, wanted / ratio), Math.max(1, ratio / wanted)]
  return { left: (1 - across) / 2, top: (1 - down) / 2, width: across, height: down }
}

/** Two of the smallest steps that words tell apart: what does less must not look as if it mattered. */
export const HARDLY_POINTS = 0.02
const FROST = 'rgb(250 248 243 / 0.6)'
/** The picture is drawn this small and stretched again, which blurs it in every browser. */
const BLURRED_SIDE = 28
/** Beside the strongest: from here on a patch is framed as clear, and hatched as against. */
const CLEAR_FROM = 0.5
const AGAINST_FROM = 0.15

/** What clear and frosted glass say, under the pane and on paper. */
export function frostWords(of: string): string {
  return `Clear: what spoke for “${of}”. Frosted: what hardly mattered. Hatched, ▼: what spoke against.`
}

/** Draw the frost for a picture that is drawn on `picture` already. */
export function drawFrost(canvas: HTMLCanvasElement, picture: HTMLCanvasElement, where: Where, box: Box, hardly: number): void {
  const { width, height } = picture
  canvas.width = width
  canvas.height = height
  const context = canvas.getContext('2d')
  if (!context || width === 0 || height === 0) return
  drawBlurred(context, picture)
  context.fillStyle = FROST
  context.fillRect(0, 0, width, height)
  const shares = strengths(where.contributions, hardly)
  const patches = shares.map((share, at) => ({ share, ...patchAt(at, where, box, width, height) }))
  context.globalCompositeOperation = 'destination-out'
  for (const { share, x, y, across, down } of patches) {
    if (share <= 0) continue
    context.fillStyle = `rgb(0 0 0 / ${Math.min(1, share ** 0.7)})`
    context.fillRect(x, y, across, down)
  }
  context.globalCompositeOperation = 'source-over'
  const line = Math.max(1, width / 640)
  for (const patch of patches) if (patch.share <= -AGAINST_FROM) hatch(context, patch, line)
  frame(context, where, patches, line)
}

interface Patch {
  share: number
  x: number
  y: number
  across: number
  down: number
}

function patchAt(at: number, { n_rows, n_columns }: Where, box: Box, width: number, height: number) {
  const [column, row] = [at % n_columns, Math.floor(at / n_columns)]
  const across = (box.width * width) / n_columns
  const down = (box.height * height) / n_rows
  return { x: box.left * width + column * across, y: box.top * height + row * down, across, down }
}

function drawBlurred(context: CanvasRenderingContext2D, picture: HTMLCanvasElement): void {
  const small = document.createElement('canvas')
  const share = BLURRED_SIDE / Math.max(picture.width, picture.height)
  small.width = Math.max(1, Math.round(picture.width * share))
  small.height = Math.max(1, Math.round(picture.height * share))
  small.getContext('2d')?.drawImage(picture, 0, 0, small.width, small.height)
  context.imageSmoothingEnabled = true
  context.drawImage(small, 0, 0, picture.width, picture.height)
}

/** A dark line beside a light one is seen on any picture. */
function stroke(context: CanvasRenderingContext2D, path: Path2D, line: number): void {
  context.lineWidth = 2.4 * line
  context.strokeStyle = 'rgb(250 248 243 / 0.75)'
  context.stroke(path)
  context.lineWidth = line
  context.strokeStyle = '#20302f'
  context.stroke(path)
}

function hatch(context: CanvasRenderingContext2D, { share, x, y, across, down }: Patch, line: number): void {
  const gap = (across / 5) * (1.6 - Math.min(1, -share) * 0.8)
  const path = new Path2D()
  for (let at = -down; at < across; at += gap) {
    path.moveTo(x + at, y)
    path.lineTo(x + at + down, y + down)
  }
  context.save()
  context.beginPath()
  context.rect(x, y, across, down)
  context.clip()
  stroke(context, path, line * 0.8)
  context.restore()
  const [middle, centre, side] = [x + across / 2, y + down / 2, Math.min(across, down) / 8]
  const mark = new Path2D(`M${middle - side} ${centre - side}h${2 * side}l${-side} ${2 * side}z`)
  context.lineWidth = 3 * line
  context.strokeStyle = '#faf8f3'
  context.stroke(mark)
  context.fillStyle = '#a85b00'
  context.fill(mark)
}

/** A line around what is clear, which frost alone would not show on a plain picture. */
function frame(context: CanvasRenderingContext2D, { n_columns }: Where, patches: Patch[], line: number): void {
  const isClear = (at: number) => (patches[at]?.share ?? 0) >= CLEAR_FROM
  const path = new Path2D()
  patches.forEach(({ x, y, across, down }, at) => {
    if (!isClear(at)) return
    const column = at % n_columns
    if (at < n_columns || !isClear(at - n_columns)) path.rect(x, y, across, 0)
    if (at + n_columns >= patches.length || !isClear(at + n_columns)) path.rect(x, y + down, across, 0)
    if (column === 0 || !isClear(at - 1)) path.rect(x, y, 0, down)
    if (column === n_columns - 1 || !isClear(at + 1)) path.rect(x + across, y, 0, down)
  })
  stroke(context, path, line)
}
