// Ten minutes of everything at once: visitors, reports, lists, changes of many links and link checks. Memory, open handles, connections to the database and the way of the clicks must be as flat in
// the last third as they were in the one before it. Fails where they aren't, where something answers with 500, or where a visit is lost.
import { address, ask, tell } from './lib.mjs'
import { handles, headers, memory, pause, shipped, state, visitors } from './watch.mjs'

const minutes = process.argv.includes('--small') ? 1 : 10
const sampleSeconds = minutes
// How much higher the last third's median may be than the one before it.
const bounds = { memoryMegabytes: 1.15, handles: 1.1, lagSeconds: 5 }

const link = await ask('POST', '/links', { title: 'For ten minutes', destination: 'https://www.northmoor.example/soak' })
const told = async () => {
  const { total, excluded } = await ask('GET', `/reports/breakdown?by=link&link=${link.id}`)
  return Object.values(excluded).reduce((sum, count) => sum + count, total.clicks)
}

const failures = []
const statuses = {}
let isOver = false

async function send(path, body, type = 'application/json') {
  const response = await fetch(`${address}/api/v1${path}`, body === undefined ? { headers } : { method: 'POST', headers: { ...headers, 'Content-Type': type }, body })
  const text = await response.text()
  statuses[response.status] = (statuses[response.status] ?? 0) + 1
  if (response.status >= 500) failures.push(`${path} answered ${response.status}: ${text.slice(0, 200)}`)
  return response.ok && text.startsWith('{') ? JSON.parse(text) : undefined
}

const again = (seconds, work) =>
  (async () => {
    for (let n = 0; !isOver; n++) {
      await work(n)
      await pause(seconds)
    }
  })()

const reports = ['breakdown?by=channel&days=90', 'breakdown?by=campaign', 'pivot?by=channel&across=weekday', 'life?by=channel', 'series?by=channel', 'lanes.png?by=channel', 'clicks.csv?days=7']
const stop = await visitors(link)
const works = [
  again(0.2, (n) => send(`/reports/${reports[n % reports.length]}`)),
  again(5, async (n) => {
    const list = Array.from({ length: 200 }, (_, line) => `https://www.northmoor.example/soak/${n}/${line}`).join('\n')
    const batch = await send('/batches?name=soak.csv', list, 'text/plain')
    if (batch) await send(`/batches/${batch.id}/preview`, '{}')
  }),
  again(2, (n) => send('/links', JSON.stringify({ title: `Soak ${n}`, destination: `http://soak-${n % 7}.localhost:1/${n}` }))),
  again(10, () => send('/link-changes', JSON.stringify({ links: { filter: { query: 'Soak' } }, change: { addTags: ['soaked'] } }))),
]

const samples = []
while (samples.length * sampleSeconds < minutes * 60) {
  await pause(sampleSeconds)
  const { oldestWaitingSeconds } = await state()
  samples.push({ memoryMegabytes: memory(), handles: handles(), lagSeconds: oldestWaitingSeconds })
}
isOver = true
await Promise.all(works)
const { count, failed, p99 } = await stop()
await shipped()

const median = (values) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]
const third = Math.floor(samples.length / 3)
const figures = { minutes, visits: count, counted: await told(), p99 }
for (const key of ['memoryMegabytes', 'handles']) {
  const [before, last] = [samples.slice(third, 2 * third), samples.slice(2 * third)].map((part) => Math.round(median(part.map((s) => s[key]))))
  figures[key] = { before, last }
  if (last > before * bounds[key]) failures.push(`${key} went from ${before} to ${last}`)
}
figures.lagSeconds = Math.max(...samples.map((s) => s.lagSeconds))
if (figures.lagSeconds > bounds.lagSeconds) failures.push(`clicks were ${figures.lagSeconds} s late`)
if (failed > 0 || figures.counted !== count) failures.push(`${count} visits, ${failed} not led on, ${figures.counted} in the reports`)
figures.answers = statuses
figures.failures = failures
tell(figures)
process.exit(failures.length > 0 ? 1 : 0)
