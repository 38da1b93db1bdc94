/** A drawn chart as a PNG: as it is drawn here, on its paper, twice as sharp. */
const SHARPER = 2
const VARIABLE = /var\((--[\w-]+)\)/g
/** What a class gives a part of the drawing goes along written out: the picture knows none of the page's styles. */
const WRITTEN_OUT = ['fill', 'font-size', 'font-family', 'opacity'] as const

export async function pictureOf(svg: SVGSVGElement): Promise<Blob> {
  const { width, height } = svg.getBoundingClientRect()
  const root = getComputedStyle(document.documentElement)
  const copy = svg.cloneNode(true) as SVGSVGElement
  const parts = [...svg.querySelectorAll('*')]
  for (const [at, part] of [...copy.querySelectorAll('*')].entries()) {
    const own = parts[at]
    if (!own?.getAttribute('class')) continue
    const style = getComputedStyle(own)
    for (const name of WRITTEN_OUT) part.setAttribute(name, style.getPropertyValue(name))
  }
  copy.setAttribute('width', String(width))
  copy.setAttribute('height', String(height))
  const drawn = new XMLSerializer().serializeToString(copy).replace(VARIABLE, (_, name: string) => root.getPropertyValue(name).trim())
  const image = new Image()
  image.src = URL.createObjectURL(new Blob([drawn], { type: 'image/svg+xml' }))
  await image.decode()
  const canvas = Object.assign(document.createElement('canvas'), { width: width * SHARPER, height: height * SHARPER })
  const pen = canvas.getContext('2d')!
  pen.fillStyle = root.getPropertyValue('--paper')
  pen.fillRect(0, 0, canvas.width, canvas.height)
  pen.drawImage(image, 0, 0, canvas.width, canvas.height)
  URL.revokeObjectURL(image.src)
  return new Promise((resolve, reject) => canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The picture could not be made.')))))
}
