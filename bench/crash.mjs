// Answered is counted: visitors, each with a referrer of its own, follow links while the server is killed, the database restarted and then taken away for a while. Afterwards each visit that was
// answered must stand in the database exactly once.
import { spawn } from 'node:child_process'
import { connect } from 'node:net'
import { mkdirSync, writeFileSync } from 'node:fs'
import { tell } from './lib.mjs'
import { allShipped, end, popularSlugs, serverPort, sql, startCursus, startDatabase, state, stopDatabase, until } from './server.mjs'

const small = process.argv.includes('--small')
const connections = 48
const [kills, between, away] = small ? [2, 1.5, 3] : [4, 3, 30]
const pause = (seconds) => new Promise((resolve) => setTimeout(resolve, seconds * 1000))

mkdirSync('artifacts/bench', { recursive: true })
const slugsFile = 'artifacts/bench/slugs.txt'
const slugs = popularSlugs(20_000)
writeFileSync(slugsFile, slugs.join('\n'))

const answered = new Set()
let asked = 0
let isOver = false

/** One visitor after the other over one connection, made anew where it breaks. */
function visitors() {
  let visit = ''
  let arrived = ''
  const socket = connect(serverPort, '127.0.0.1')
  const follow = () => {
    visit = `v${asked++}.crash.example`
    arrived = ''
    socket.write(
      `GET /${slugs[asked % slugs.length]} HTTP/1.1\r\nHost: nmoor.localhost\r\nReferer: https://${visit}/\r\nX-Forwarded-For: 198.18.${asked % 256}.${asked % 251}\r\n` +
        'User-Agent: Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0\r\n\r\n',
    )
  }
  socket.on('connect', follow)
  socket.on('data', (bytes) => {
    arrived += bytes
    if (!arrived.includes('\r\n\r\n')) return
    // While a server that has just started still reads a million links, it asks some of this crowd to come again.
    if (arrived.startsWith('HTTP/1.1 302 ')) answered.add(visit)
    else if (!arrived.startsWith('HTTP/1.1 503 ')) throw new Error(`answered: ${arrived.slice(0, 60)}`)
    if (!isOver) follow()
    else socket.destroy()
  })
  socket.on('error', () => undefined)
  socket.on('close', () => isOver || setTimeout(visitors, 20))
}

let cursus = await startCursus('0,1')
await until('the links were loaded', 180, async () => (await state()).edge)
for (let i = 0; i < connections; i++) visitors()
const crowd = spawn('wrk', ['-t1', '-c32', '-d600s', '-s', 'bench/visitors.lua', `http://127.0.0.1:${serverPort}`], {
  env: { ...process.env, BENCH_SLUGS: slugsFile },
  stdio: 'ignore',
})
process.on('exit', () => crowd.kill('SIGKILL'))

for (let i = 0; i < kills; i++) {
  await pause(between)
  await end(cursus, 'SIGKILL')
  cursus = await startCursus('0,1')
}
await pause(between)
stopDatabase()
startDatabase()
await pause(between)
const before = answered.size
stopDatabase()
await pause(away)
const whileAway = answered.size - before
const { database, waitingBytes } = await state()
startDatabase()
await pause(between)
isOver = true
crowd.kill('SIGKILL')
await pause(0.5)
await allShipped()

const stored = new Map(sql("select referrer_host, count(*) from clicks where referrer_host like '%.crash.example' group by 1").map(([visit, n]) => [visit, Number(n)]))
const lost = [...answered].filter((visit) => !stored.has(visit)).length
const twice = [...stored.values()].filter((n) => n > 1).length
const { lostClicks } = await state()
await end(cursus)

tell({
  measured: `${kills} times kill -9, one restart of the database and ${away} s without it, under load`,
  answered: answered.size,
  answeredWhileTheDatabaseWasAway: whileAway,
  lost,
  countedTwice: twice,
  clicksStoredInAll: Number(sql('select count(*) from clicks')[0][0]),
})
if (lost + twice + lostClicks > 0 || whileAway === 0 || database || waitingBytes === 0) process.exit(1)
