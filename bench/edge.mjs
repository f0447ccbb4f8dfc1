// The edge with a million links, every click written down, against the smallest program on the same web server that leads on. Both run on one core and take turns;
// the requests come from the other core.
import { execFileSync } from 'node:child_process'
import { writeFileSync, mkdirSync } from 'node:fs'
import { spread, tell } from './lib.mjs'
import { addRoutes, removeRoutes } from './routes.mjs'
import { allShipped, end, pinDatabase, popularSlugs, serverPort, shareByTasks, sql, startConstant, startCursus, state, until } from './server.mjs'

const small = process.argv.includes('--small')
// Many short bursts rather than few long ones: a shared machine is slow for seconds at a time, and a pair that falls within such a time still compares.
const [rounds, burst, longRounds, sustained] = small ? [2, 2, 1, 4] : [31, 2, 3, 20]
const constantPort = serverPort + 1
const serverCore = 0
const visitorsCore = 1

mkdirSync('artifacts/bench', { recursive: true })
const slugsFile = 'artifacts/bench/slugs.txt'
removeRoutes()
const slugs = popularSlugs(20_000)
writeFileSync(slugsFile, slugs.join('\n'))

let seed = 1
function visit(port, seconds, file = slugsFile) {
  const out = execFileSync(
    'taskset',
    ['-c', String(visitorsCore), 'wrk', '-t1', '-c64', `-d${seconds}s`, '--timeout', '20s', '--latency', '-s', 'bench/visitors.lua', `http://127.0.0.1:${port}`],
    { env: { ...process.env, BENCH_SLUGS: file, BENCH_SEED: String(seed++) } },
  ).toString()
  const result = JSON.parse(out.trim().split('\n').at(-1))
  if (result.failed > 0) throw new Error(`${result.failed} requests failed`)
  return { perSecond: result.requests / result.seconds, p99: result.p99 / 1000, requests: result.requests }
}

/** The journal's clicks go into the database with both cores to themselves; then all is quiet again, and the database back on the server's core. */
async function drain() {
  pinDatabase('0,1')
  const [began, already] = [performance.now(), (await state()).shippedClicks]
  await allShipped()
  const perSecond = ((await state()).shippedClicks - already) / ((performance.now() - began) / 1000)
  sql('vacuum analyze open_days')
  sql('checkpoint')
  pinDatabase(`${serverCore}`)
  return perSecond
}

shareByTasks()
const constant = await startConstant(serverCore, constantPort)
const cursus = await startCursus(serverCore)
await until('the links were loaded', 120, async () => (await state()).edge)
const loaded = await state()

// At first without measuring, until both are compiled as well as they will be.
for (let round = 0; round < (small ? 1 : 3); round++) {
  visit(constantPort, 4)
  visit(serverPort, 6)
  await drain()
}

const bursts = []
const drains = []
for (let round = 0; round < rounds; round++) {
  const bare = visit(constantPort, burst)
  const before = (await state()).shippedClicks
  const edge = visit(serverPort, burst)
  bursts.push({ bare, edge })
  drains.push(await drain())
  const stored = (await state()).shippedClicks - before
  if (stored < edge.requests) throw new Error(`${edge.requests} answered, ${stored} stored`)
}

const long = []
for (let round = 0; round < longRounds; round++) {
  const bare = visit(constantPort, burst)
  const before = (await state()).shippedClicks
  const edge = visit(serverPort, sustained)
  const shipped = (await state()).shippedClicks - before
  long.push({ bare, edge, shippedShare: shipped / edge.requests })
  await drain()
}

// Some links with rules that ask for country, device and hour, and a split for everyone else.
const routedSlugs = [...new Set(slugs)].slice(0, 1000)
const isRouted = new Set(routedSlugs)
const routedFile = 'artifacts/bench/routed-slugs.txt'
writeFileSync(routedFile, slugs.filter((slug) => isRouted.has(slug)).join('\n'))
await addRoutes(routedSlugs)
visit(serverPort, 4, routedFile)
await drain()
const routed = []
for (let round = 0; round < rounds; round++) {
  const bare = visit(constantPort, burst)
  routed.push({ bare, edge: visit(serverPort, burst, routedFile) })
  await drain()
}
const pages = sql('select page, count(*) from clicks where page >= 7 group by page order by page').map(([, clicks]) => Number(clicks))

const stored = sql('select count(*) from clicks')[0][0]
await end(cursus)

const insertPort = serverPort + 2
const insert = await startConstant(serverCore, insertPort, 'insert')
visit(insertPort, 3)
const inserts = []
for (let round = 0; round < longRounds; round++) inserts.push({ bare: visit(constantPort, burst), edge: visit(insertPort, burst) })
await end(insert)
await end(constant)

const ratio = (rows, of) => spread(rows.map(of))
tell({
  measured: `${rounds} bursts of ${burst} s and ${long.length} of ${sustained} s over 64 connections, server on one core, alternating`,
  links: loaded.links,
  secondsToLoadThem: loaded.loadedInSeconds,
  megabytesOfLinks: Math.round(loaded.linkBytes / 1e6),
  bytesALink: Math.round(loaded.linkBytes / loaded.links),
  constantPerSecond: ratio(bursts, (b) => b.bare.perSecond),
  burstOfConstant: ratio(bursts, (b) => b.edge.perSecond / b.bare.perSecond),
  burstP99Milliseconds: ratio(bursts, (b) => b.edge.p99),
  burstP99OfConstant: ratio(bursts, (b) => b.edge.p99 / b.bare.p99),
  routedLinks: routedSlugs.length,
  routedOfConstant: ratio(routed, (b) => b.edge.perSecond / b.bare.perSecond),
  routedP99Milliseconds: ratio(routed, (b) => b.edge.p99),
  routedPages: pages,
  drainedClicksPerSecond: spread(drains),
  sustainedOfConstant: ratio(long, (b) => b.edge.perSecond / b.bare.perSecond),
  sustainedP99Milliseconds: ratio(long, (b) => b.edge.p99),
  sustainedP99OfConstant: ratio(long, (b) => b.edge.p99 / b.bare.p99),
  sustainedShippedMeanwhile: ratio(long, (b) => b.shippedShare),
  insertPerClickOfConstant: ratio(inserts, (b) => b.edge.perSecond / b.bare.perSecond),
  clicksStored: Number(stored),
})
