/** Samples travel with the page's settings: a preview's size is enough, and all of them must fit into one request. */
const SAMPLE_SIDE = 512
const JPEG_QUALITY = 0.85

/** As JPEG in base64, no larger than a preview needs. */
export async function shrunk(file: Blob): Promise<string> {
  const image = await createImageBitmap(file, { imageOrientation: 'from-image' }).catch(() => {
    throw new Error('One of the pictures cannot be shown by this browser. Save it as JPEG or PNG.')
  })
  const share = Math.min(1, SAMPLE_SIDE / Math.max(image.width, image.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(image.width * share))
  canvas.height = Math.max(1, Math.round(image.height * share))
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height)
  return canvas.toDataURL('image/jpeg', JPEG_QUALITY).split(',')[1] ?? ''
}
