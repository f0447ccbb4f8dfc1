// Watching the server's process from outside, and visitors who follow a link at a steady pace meanwhile.
import { once } from 'node:events'
import { readdirSync, readFileSync } from 'node:fs'
import { Worker } from 'node:worker_threads'
import { address } from './lib.mjs'

export const port = Number(new URL(address).port)
export const headers = { Authorization: `Bearer ${process.env.CURSUS_TOKEN}` }
export const pause = (seconds) => new Promise((resolve) => setTimeout(resolve, seconds * 1000))

const ticksEachSecond = 100
const server = readdirSync('/proc').find((pid) => {
  try {
    const line = readFileSync(`/proc/${pid}/cmdline`, 'utf8')
    return line.includes('Cursus.Web.dll') && line.includes(`localhost:${port}`)
  } catch {
    return false
  }
})

/** Seconds of processor time that the server has used since its start. */
export function processorSeconds() {
  const fields = readFileSync(`/proc/${server}/stat`, 'utf8').split(') ')[1].split(' ')
  return (Number(fields[11]) + Number(fields[12])) / ticksEachSecond
}

/** Megabytes of memory that the server takes. */
export const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server}/status`, 'utf8'))[1]) / 1024

/** Files and connections that the server has open. */
export const handles = () => readdirSync(`/proc/${server}/fd`).length

/** What the server says of itself. */
export const state = async () => (await fetch(`${address}/readyz`, { headers })).json()

export async function shipped() {
  while ((await state()).waitingBytes > 0) await pause(0.05)
}

let first = 0

/** Visitors of a link until they are stopped, each another one; then how many there were, how many were not led on, and the 99th percentile of the milliseconds. */
export async function visitors({ domain, slug }) {
  const worker = new Worker(new URL('./steady-visitors.mjs', import.meta.url), { workerData: { port, domain, slug, first } })
  first += 100_000
  await once(worker, 'online')
  return async () => {
    worker.postMessage('stop')
    const [told] = await once(worker, 'message')
    return told
  }
}
