// Reads the QR code in each picture of a folder: raw dots, `NAME.WIDTH.HEIGHT.rgba`. Prints one line for each, `NAME<tab>text`; nothing after the tab where there is none to read.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import jsqr from 'jsqr'

const decode = jsqr.default ?? jsqr
const folder = process.argv[2]
for (const file of readdirSync(folder).filter((name) => name.endsWith('.rgba')).sort()) {
  const [name, width, height] = file.split('.')
  const found = decode(new Uint8ClampedArray(readFileSync(join(folder, file))), Number(width), Number(height))
  console.log(`${name}\t${found?.data ?? ''}`)
}
