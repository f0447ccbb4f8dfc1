// Starting, pinning, killing and asking the server and the database that are measured.
import { execFileSync, spawn } from 'node:child_process'
import { once } from 'node:events'
import { readFileSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'

const { CURSUS_BENCH_DATA: data, CURSUS_BENCH_PORT: port, CURSUS_BENCH_PG_PORT: pgPort } = process.env
export const address = `http://127.0.0.1:${port}`
export const serverPort = Number(port)

const running = new Set()
process.on('exit', () => running.forEach((child) => child.kill('SIGKILL')))

const pause = (seconds) => new Promise((resolve) => setTimeout(resolve, seconds * 1000))

/** Runs a program on one core, and returns it when it answers. */
export async function onCore(core, command, args, isReady, seconds = 60) {
  const child = spawn('taskset', ['-c', String(core), command, ...args], { stdio: ['ignore', 'ignore', 'inherit'] })
  running.add(child)
  child.once('exit', () => running.delete(child))
  for (const began = performance.now(); performance.now() - began < seconds * 1000; ) {
    if (child.exitCode !== null || child.signalCode !== null) throw new Error(`${command} ${args[0]} ended while starting`)
    if (await isReady().catch(() => false)) return child
    await pause(0.05)
  }
  throw new Error(`${command} ${args[0]} did not become ready`)
}

/** Cursus on one core, ready as soon as the edge answers; at the first start it may have clicks to read. */
export const startCursus = (core, seconds) =>
  onCore(
    core,
    'dotnet',
    ['artifacts/web/Cursus.Web.dll', '--urls', address, '--contentRoot', resolve('artifacts/web')],
    () => fetch(`${address}/healthz`, { headers: { Host: 'localhost' } }).then((r) => r.ok),
    seconds,
  )

export const startConstant = (core, onPort, ...args) =>
  onCore(core, 'dotnet', ['artifacts/constant302/constant302.dll', String(onPort), ...args], () =>
    fetch(`http://127.0.0.1:${onPort}/`, { redirect: 'manual' }).then((r) => r.status === 302),
  )

export async function end(child, signal = 'SIGTERM') {
  if (child.exitCode !== null || child.signalCode !== null) return
  const gone = once(child, 'exit')
  child.kill(signal)
  await gone
}

/** The most memory that a process has taken since its start, in bytes. */
export const peakMemory = (child) => Number(/VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))[1]) * 1024

/** What the server says of itself. */
export const state = async () => (await fetch(`${address}/readyz`)).json()

export async function until(what, seconds, isTrue) {
  for (const began = performance.now(); performance.now() - began < seconds * 1000; await pause(0.05)) if (await isTrue()) return
  throw new Error(`waited ${seconds} s in vain until ${what}`)
}

export const allShipped = () =>
  until('all clicks were shipped', 600, async () => {
    const { waitingBytes, oldestWaitingSeconds } = await state()
    return waitingBytes === 0 && oldestWaitingSeconds === 0
  })

/** Asks the database; rows are arrays of texts. */
export function sql(query) {
  const out = execFileSync('psql', ['-qAt', '-F', '\t', '-h', '127.0.0.1', '-p', pgPort, '-U', 'cursus', '-d', 'bench', '-v', 'ON_ERROR_STOP=1'], { input: query, maxBuffer: 1 << 30 }).toString()
  return out.split('\n').filter((line) => line !== '').map((line) => line.split('\t'))
}

const script = (text) => execFileSync('bash', ['-c', `for part in scripts/*.sh; do source "$part"; done; ${text}`], { stdio: ['ignore', 'pipe', 'inherit'] }).toString()

export const stopDatabase = () => script(`pg_stop '${data}'`)

/** On the same port as before: the server knows no other. */
export const startDatabase = () => script(`any_port() { echo ${pgPort}; }; pg_start '${data}'`)

/** Pins the database's processes; those that it makes later follow. */
export function pinDatabase(cores) {
  const first = script(`head -1 '${data}/pg/postmaster.pid'`).trim()
  const children = execFileSync('bash', ['-c', `pgrep -P ${first} || true`]).toString().split('\n').filter(Boolean)
  for (const pid of [first, ...children]) {
    try {
      execFileSync('taskset', ['-acp', cores, pid], { stdio: 'ignore' })
    } catch {
      // A process that has ended meanwhile needs no pinning.
    }
  }
}

/**
 * Kernels for desktops share out a processor by sessions, of which every process of the database is one; beside a server that is always busy they were seen to leave it a fortieth
 * of the core. Servers' control groups share it out by tasks, and so does this, where it may, until the measurement ends.
 */
export function shareByTasks() {
  const setting = '/proc/sys/kernel/sched_autogroup_enabled'
  try {
    const before = readFileSync(setting)
    writeFileSync(setting, '0')
    process.on('exit', () => writeFileSync(setting, before))
  } catch {
    // Not this kernel's, or not allowed.
  }
}

/** Slugs as visitors ask for them: the k-th most popular link 1/k times as often as the first. */
export function popularSlugs(howMany) {
  const slugs = sql("select slug from links where domain_id = '00000000-0000-7000-8000-000000000002' order by id").flat()
  const total = Math.log(slugs.length)
  let seed = 42
  const random = () => (seed = (seed * 1103515245 + 12345) % 2 ** 31) / 2 ** 31
  return Array.from({ length: howMany }, () => slugs[Math.min(slugs.length - 1, Math.floor(Math.exp(random() * total)) - 1)])
}
