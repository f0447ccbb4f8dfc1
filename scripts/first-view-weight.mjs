// How much JavaScript (gzip) a browser fetches before the first view is usable: the entry, what it imports at once, and the Send view's own parts.
import { readFileSync, existsSync } from 'node:fs'
import { gzipSync } from 'node:zlib'
import { dirname, join, normalize } from 'node:path'

const limit = 250_000
const dist = 'web/dist'
const html = readFileSync(join(dist, 'index.html'), 'utf8')
const entries = [...html.matchAll(/(?:src|href)="(\/assets\/[^"]+\.js)"/g)].map((m) => join(dist, m[1]))
const main = entries.map((file) => readFileSync(file, 'utf8')).join('\n')
const send = main.match(/assets\/SendPage-[\w-]+\.js/)
if (!send) throw new Error('the Send view is no part of its own any more')

const seen = new Set()
function walk(file) {
  if (seen.has(file) || !existsSync(file)) return
  seen.add(file)
  for (const [, , path] of readFileSync(file, 'utf8').matchAll(/(\bfrom|\bimport)\s*["'](\.\/[^"']+\.js)["']/g))
    walk(normalize(join(dirname(file), path)))
}
entries.forEach(walk)
walk(join(dist, send[0]))

const weight = [...seen].reduce((sum, file) => sum + gzipSync(readFileSync(file), { level: 9 }).length, 0)
console.log(`  first view: ${Math.round(weight / 1000)} kB of JavaScript (gzip), at most ${limit / 1000}`)
process.exit(weight <= limit ? 0 : 1)
