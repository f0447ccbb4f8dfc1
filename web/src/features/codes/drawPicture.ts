/** The address of an SVG as an image takes it; scripts in images never run. */
export const asImage = (svg: string) => `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`

/** Draws an SVG as wide as asked. */
export async function drawPicture(svg: string, width: number, ground?: string): Promise<HTMLCanvasElement> {
  const image = new Image()
  image.src = asImage(svg)
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = width
  canvas.height = Math.round((width * image.height) / image.width)
  const brush = canvas.getContext('2d')!
  if (ground) {
    brush.fillStyle = ground
    brush.fillRect(0, 0, canvas.width, canvas.height)
  }
  brush.drawImage(image, 0, 0, canvas.width, canvas.height)
  return canvas
}
