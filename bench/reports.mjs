// The questions that people ask, over twenty million clicks: how long each takes from the roll-ups, how much longer the same takes over the clicks themselves, what memory the server takes, and what a click takes on the disk.
import { execFileSync } from 'node:child_process'
import { resolve } from 'node:path'
import { tell } from './lib.mjs'
import { planOf, plansOf } from './plans.mjs'
import { address, end, peakMemory, sql, startCursus, until } from './server.mjs'

const times = process.argv.includes('--small') ? 3 : 12
const cursus = await startCursus('0,1', 1800)
await until('the days were sealed', 1800, () => sql("select 1 from sealed_days where until > current_date - 3").length > 0)
sql('vacuum analyze')
const token = execFileSync('dotnet', ['artifacts/web/Cursus.Web.dll', 'token', '--email', 'maren@northmoor.example', '--contentRoot', resolve('artifacts/web')]).toString().trim().split('\n').at(-1)

const days = (n) => new Date(Date.now() - n * 86_400_000).toISOString().slice(0, 10)
const ever = `from=${days(399)}&to=${days(0)}`
const questions = {
  'channel of a campaign, 28 days': 'breakdown?by=channel&campaign=campaign-3&period=last-28&compare=previous',
  'channel, 28 days': 'breakdown?by=channel&period=last-28&compare=previous',
  'channel, 90 days': 'breakdown?by=channel&period=last-90&compare=previous',
  'channel, 400 days': `breakdown?by=channel&${ever}`,
  'source and medium of a campaign': `pivot?by=source&across=medium&campaign=campaign-3&${ever}`,
  'channel by campaign, 400 days': `pivot?by=channel&across=campaign&${ever}`,
  'post on a channel, 28 days': 'breakdown?by=post&channel=perch&period=last-28',
  'post, 400 days': `breakdown?by=post&${ever}`,
  'link, 400 days': `breakdown?by=link&${ever}`,
  'last month against a year before': 'breakdown?by=channel&period=last-month&compare=year',
  'variant, 90 days': 'breakdown?by=content&period=last-90',
  'weekday and hour, 28 days': 'pivot?by=weekday&across=hour&period=last-28',
  'weekday and hour, 400 days': `pivot?by=weekday&across=hour&${ever}`,
  'by QR code or by click, 400 days': `breakdown?by=scan&${ever}`,
  'how long posts live by channel, 400 days': `life?by=channel&${ever}`,
  'shared elsewhere, 28 days': 'breakdown?by=elsewhere&period=last-28&compare=previous',
  'channel by network, 400 days': `pivot?by=channel&across=network&${ever}`,
  'course by channel, 90 days': 'series?by=channel&period=last-90',
  'country, 28 days': 'breakdown?by=country&period=last-28&compare=previous',
  'country, 400 days': `breakdown?by=country&${ever}`,
  'device, 400 days': `breakdown?by=device&${ever}`,
  'browser of a channel, 90 days': 'breakdown?by=browser&channel=guildhall&period=last-90',
  'country by device, 31 days': 'pivot?by=country&across=device&period=last-28',
}
const raw = {
  'channel, 28 days': ["l.channel_id", 28],
  'channel, 400 days': ['l.channel_id', 400],
  'country, 400 days': ['c.country', 400],
}

async function ask(path) {
  const response = await fetch(`${address}/api/v1/reports/${path}`, { headers: { Authorization: `Bearer ${token}`, Host: 'localhost' } })
  const text = await response.text()
  if (!response.ok) throw new Error(`${path} answered ${response.status}: ${text}`)
}

const took = {}
for (const path of Object.values(questions)) await ask(path)
for (let round = 0; round < times; round++) {
  for (const [name, path] of Object.entries(questions)) {
    const began = performance.now()
    await ask(path)
    ;(took[name] ??= []).push(performance.now() - began)
  }
}

const percentile = (values, part) => values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(part * values.length))]
const overClicks = ([group, back]) =>
  `select ${group}, count(*) from clicks c join links l on l.id = c.link_id where c.kind = 0 and c.at >= now() - interval '${back} days' group by 1`
const scans = {}
for (const [name, asked] of Object.entries(raw)) {
  const scan = () => {
    const began = performance.now()
    sql(overClicks(asked))
    return performance.now() - began
  }
  scan()
  scans[name] = percentile([scan(), scan(), scan()], 0.5) / percentile(took[name], 0.5)
}

const size = (tables) => Number(sql(`select sum(pg_total_relation_size(oid)) from pg_class where relkind = 'r' and relname ~ '${tables}'`)[0][0])
const clicks = Number(sql('select count(*) from clicks')[0][0])
const explained = 'country, 400 days'
if (!process.argv.includes('--json')) {
  console.log(`How “${explained}” is answered:\n${await plansOf(() => ask(questions[explained]))}\n`)
  console.log(`The same over the clicks themselves:\n${planOf(overClicks(raw[explained]))}\n`)
}
const serverBytes = peakMemory(cursus)
await end(cursus)
tell({
  measured: `${clicks.toLocaleString('en')} clicks over 400 days on ${Number(sql('select count(*) from links')[0][0]).toLocaleString('en')} links, ${times} rounds, both cores`,
  milliseconds: Object.fromEntries(
    Object.entries(took).map(([name, values]) => [name, { p50: Math.round(percentile(values, 0.5)), p95: Math.round(percentile(values, 0.95)) }]),
  ),
  slowestP95: Math.round(Math.max(...Object.values(took).map((values) => percentile(values, 0.95)))),
  timesAsLongOverTheClicks: Object.fromEntries(Object.entries(scans).map(([name, ratio]) => [name, Number(ratio.toPrecision(3))])),
  serverMegabytes: Math.round(serverBytes / 1e6),
  serverBytesAClick: Number((serverBytes / clicks).toPrecision(3)),
  bytesAClick: Math.round(size('^(clicks_[0-9]|open_days$|link_days$|link_months$)') / clicks),
  ofTheseRollUps: Number((size('^(open_days|link_days|link_months)$') / clicks).toPrecision(3)),
})
