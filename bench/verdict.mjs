// How often verdicts are right, by simulation, some of it on the demo's own posts: node bench/verdict.mjs [--small] [--json]; writes docs/verdicts.md unless it is small.
import { spawnSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'

const { CURSUS_ADDRESS: address, CURSUS_TOKEN: token } = process.env
const today = new Date().toISOString().slice(0, 10)
const daysAgo = (at) => Math.round((Date.parse(today) - Date.parse(at.slice(0, 10))) / 86_400_000)
const from = new Date(Date.parse(today) - 400 * 86_400_000).toISOString().slice(0, 10)

const answer = await fetch(`${address}/api/v1/reports/clicks.ndjson?from=${from}&to=${today}`, { headers: { authorization: `Bearer ${token}` } })
if (!answer.ok) throw new Error(`the demo's clicks could not be read: ${answer.status}`)
const posts = new Map()
for (const line of (await answer.text()).trim().split('\n')) {
  const { at, post, link, channel } = JSON.parse(line)
  const title = post === 'Individual links' ? link : post
  const channels = posts.get(title) ?? posts.set(title, {}).get(title)
  const days = (channels[channel] ??= {})
  const day = Math.max(0, daysAgo(at))
  days[day] = (days[day] ?? 0) + 1
}
const file = 'artifacts/bench/demo-posts.json'
writeFileSync(file, JSON.stringify([...posts].map(([title, channels]) => ({ title, channels }))))

const options = process.argv.slice(2)
const page = options.includes('--small') ? [] : ['--write', 'docs/verdicts.md']
const { status } = spawnSync('dotnet', ['artifacts/verdict/verdict.dll', '--demo', file, ...page, ...options], { stdio: 'inherit' })
process.exit(status ?? 1)
